-- Up Migration
-- Whether a revision was proven on its machine, and with which revisions of what it calls. The last one counts; it may be taken back.
CREATE TABLE program_proof (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  program_id integer NOT NULL REFERENCES program,
  proven     boolean NOT NULL,
  -- by number, the text of each program that was called
  subs       jsonb NOT NULL DEFAULT '{}',
  said       text NOT NULL CHECK (length(said) BETWEEN 1 AND 300),
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT tin_now()
);
CREATE INDEX program_proof_program ON program_proof (program_id, id DESC);
CREATE INDEX program_proof_person ON program_proof (person_id);
GRANT SELECT, INSERT ON program_proof TO tin_app;
-- What ran to the end of a job before proofs were kept has been proven by that.
INSERT INTO program_proof (program_id, proven, subs, said, person_id, at)
SELECT g.id, true,
       coalesce((SELECT jsonb_object_agg(u.number, u.sha256) FROM (
         SELECT DISTINCT ON (o.number) o.number, o.sha256 FROM program o
         WHERE o.machine_id = g.machine_id AND o.number = ANY(g.uses) ORDER BY o.number, o.revision DESC) u), '{}'),
       'a job of it was finished before proofs were kept', l.person_id, l.at
FROM program g JOIN LATERAL (
  SELECT l.person_id, l.at FROM ledger l JOIN job j ON j.id = l.job_id
  WHERE j.program_id = g.id AND l.kind = 'program' AND l.stage = 'finished' ORDER BY l.id DESC LIMIT 1) l ON true;
-- What somebody has looked at and let stand, in its very words, until a day.
CREATE TABLE finding_waiver (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  program_id integer NOT NULL REFERENCES program,
  code       text NOT NULL,
  sentence   text NOT NULL CHECK (length(sentence) <= 1000),
  why        text NOT NULL CHECK (length(why) BETWEEN 1 AND 300),
  until      timestamptz NOT NULL,
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT tin_now(),
  CHECK (until > at)
);
CREATE INDEX finding_waiver_program ON finding_waiver (program_id, until);
CREATE INDEX finding_waiver_person ON finding_waiver (person_id);
GRANT SELECT, INSERT ON finding_waiver TO tin_app;
INSERT INTO ledger_stage (kind, stage) VALUES ('program', 'proven'), ('program', 'unproven'), ('program', 'waived');
