-- Up Migration
-- Which parts of a job were cut on which pallet, as they were counted; a count that is taken back takes its own back.
CREATE TABLE part_on_pallet (
  job_id     integer NOT NULL REFERENCES job,
  first_part integer NOT NULL CHECK (first_part > 0),
  last_part  integer NOT NULL,
  pallet     integer NOT NULL CHECK (pallet BETWEEN 1 AND 999),
  -- the count, by its entry in the ledger
  counted    bigint NOT NULL,
  PRIMARY KEY (job_id, first_part),
  CHECK (first_part <= last_part)
);
GRANT SELECT, INSERT, DELETE ON part_on_pallet TO tin_app;

-- on which pallet the part that was measured was clamped, where that is known
ALTER TABLE reading ADD COLUMN pallet smallint CONSTRAINT reading_pallet CHECK (pallet BETWEEN 1 AND 999);
