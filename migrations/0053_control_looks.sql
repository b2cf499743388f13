-- Up Migration
-- A look at what a control holds: its table as it was brought in, kept whole, and what was answered to what differed.
CREATE TABLE control_look (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id integer NOT NULL REFERENCES machine,
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT now(),
  file_name  text NOT NULL,
  -- registers with what they held: [{"register": 1, "value": 118225000}]
  held       jsonb NOT NULL,
  -- the last entry before it: what was recorded later is not held against it
  entry_id   bigint NOT NULL
);
CREATE INDEX control_look_machine ON control_look (machine_id, id);
CREATE INDEX control_look_person ON control_look (person_id);
CREATE TABLE control_answer (
  look_id     integer NOT NULL REFERENCES control_look,
  register_id integer NOT NULL REFERENCES register,
  answer      text NOT NULL CHECK (answer IN ('control', 'record', 'open')),
  why         text NOT NULL,
  person_id   integer NOT NULL REFERENCES person,
  at          timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (look_id, register_id)
);
CREATE INDEX control_answer_register ON control_answer (register_id);
CREATE INDEX control_answer_person ON control_answer (person_id);
GRANT SELECT, INSERT ON control_look, control_answer TO tin_app;
INSERT INTO ledger_stage (kind, stage) VALUES ('machine', 'controlLooked'), ('machine', 'controlAnswered');
