-- Up Migration
-- A look at which T a control believes to stand in which place (0 is the spindle), kept whole.
CREATE TABLE pocket_look (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id integer NOT NULL REFERENCES machine,
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT now(),
  file_name  text NOT NULL,
  -- places with the T in each, 0 where the control has none: [{"place": 12, "tool": 7}]
  places     jsonb NOT NULL,
  -- the last entry before it
  entry_id   bigint NOT NULL
);
CREATE INDEX pocket_look_machine ON pocket_look (machine_id, id);
CREATE INDEX pocket_look_person ON pocket_look (person_id);
GRANT SELECT, INSERT ON pocket_look TO tin_app;
