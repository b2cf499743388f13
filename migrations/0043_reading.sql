-- Up Migration
-- Which reader read a program, and which programs of the store it read with it: read anew when either changes.
ALTER TABLE program ADD COLUMN reader integer NOT NULL DEFAULT 0;
ALTER TABLE program ADD COLUMN uses text[] NOT NULL DEFAULT '{}';
GRANT UPDATE (remarks, reader, uses, title, lines, unit) ON program TO tin_app;
GRANT DELETE ON program_call TO tin_app;
-- What the reader could not know and somebody said, once for a revision: in words, or as the value of a variable.
CREATE TABLE program_settled (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  program_id integer NOT NULL REFERENCES program,
  code       text NOT NULL,
  line       integer NOT NULL,
  text       text NOT NULL,
  variable   integer,
  value      double precision,
  said       text NOT NULL CHECK (length(said) BETWEEN 1 AND 300),
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT tin_now(),
  CHECK ((variable IS NULL) = (value IS NULL)),
  UNIQUE (program_id, code, line, text)
);
CREATE INDEX program_settled_person ON program_settled (person_id);
GRANT SELECT, INSERT ON program_settled TO tin_app;
-- What the control's own counter showed when a job was started: it counts on from the job before.
ALTER TABLE job ADD COLUMN count_from integer;
GRANT UPDATE (count_from) ON job TO tin_app;
INSERT INTO ledger_stage (kind, stage) VALUES ('program', 'settled'), ('program', 'read anew');
