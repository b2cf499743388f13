-- Up Migration
-- A person's number at the plant's identity provider, by which they may sign in there; and what was refused to whom.
ALTER TABLE person ADD COLUMN plant_number text UNIQUE CHECK (length(plant_number) BETWEEN 1 AND 200);
GRANT UPDATE (plant_number) ON person TO tin_app;

-- By which way somebody was let in.
ALTER TABLE sign_in_attempt ADD COLUMN way text NOT NULL DEFAULT 'pin' CHECK (way IN ('pin', 'plant'));

CREATE TABLE refusal (
  id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  at        timestamptz NOT NULL DEFAULT now(),
  -- null: nobody that is known here
  person_id integer REFERENCES person,
  address   text NOT NULL DEFAULT '' CHECK (length(address) <= 100),
  what      text NOT NULL CHECK (length(what) BETWEEN 1 AND 400)
);
CREATE INDEX refusal_person ON refusal (person_id);
CREATE INDEX refusal_at ON refusal (at);
GRANT SELECT, INSERT, DELETE ON refusal TO tin_app;
