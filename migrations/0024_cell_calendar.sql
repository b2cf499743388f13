-- Up Migration
-- The hours of a shift change from a day on, and what was before stays as it was: leaves of the past keep their bells.
ALTER TABLE shift_pattern ADD COLUMN since date NOT NULL DEFAULT '2000-01-01';
ALTER TABLE shift_pattern ADD COLUMN until date;
ALTER TABLE shift_pattern ADD CONSTRAINT a_shift_ends_after_it_began CHECK (until IS NULL OR until >= since);
ALTER TABLE shift_pattern DROP CONSTRAINT shift_pattern_name_key;
CREATE UNIQUE INDEX one_shift_of_a_name_at_a_time ON shift_pattern (lower(name)) WHERE until IS NULL;
-- Days on which a shift does not run though the week says so, or runs though it does not.
CREATE TABLE shift_exception (
  date date NOT NULL,
  name text NOT NULL,
  runs boolean NOT NULL,
  why  text NOT NULL DEFAULT '',
  PRIMARY KEY (date, name)
);
REVOKE UPDATE ON shift_pattern FROM tin_app;
GRANT INSERT (name, start_minute, length_minutes, days, since), UPDATE (start_minute, length_minutes, days, until) ON shift_pattern TO tin_app;
GRANT SELECT, INSERT, DELETE ON shift_exception TO tin_app;

INSERT INTO ledger_stage (kind, stage) VALUES ('cell', 'changed');
