-- Up Migration
-- What sizes are measured with: how fine it shows, how well it is known, and until when that holds.
CREATE TABLE gauge (
  id          integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 60),
  resolution  bigint NOT NULL CHECK (resolution > 0),
  -- expanded, k = 2; null where nobody has said it
  uncertainty bigint CHECK (uncertainty > 0),
  due         date,
  zero_at     timestamptz,
  zero_by     integer REFERENCES person (id)
);
CREATE UNIQUE INDEX one_gauge_of_a_name ON gauge (lower(name));
CREATE INDEX gauge_zero_by ON gauge (zero_by);
GRANT SELECT, INSERT ON gauge TO tin_app;
GRANT UPDATE (resolution, uncertainty, due, zero_at, zero_by) ON gauge TO tin_app;

-- A reading taken warm is kept as it was typed, beside what it comes to at 20 °C.
ALTER TABLE reading ADD COLUMN shown bigint, ADD COLUMN celsius double precision;
ALTER TABLE reading ADD CONSTRAINT reading_warm CHECK ((shown IS NULL) = (celsius IS NULL));
GRANT INSERT (shown, celsius) ON reading TO tin_app;
