-- Up Migration
-- What was promised stays on every leaf until it is kept, as a question does until it is answered.
ALTER TABLE leaf_note DROP CONSTRAINT leaf_note_kind_check;
ALTER TABLE leaf_note ADD CONSTRAINT leaf_note_kind_check CHECK (kind IN ('note', 'question', 'promise'));
CREATE INDEX leaf_note_open ON leaf_note (kind, id) WHERE kind <> 'note';
INSERT INTO ledger_stage (kind, stage) VALUES ('leaf', 'promise'), ('leaf', 'kept'), ('leaf', 'checked'), ('leaf', 'check list');

-- How a machine is left at the end of a shift: what is looked at, everywhere or at one machine, and by whom it was.
CREATE TABLE end_check (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id integer REFERENCES machine,
  text       text NOT NULL CHECK (length(text) BETWEEN 1 AND 300),
  -- what the line is about, where the application can say something to it; of one that people wrote nothing
  about      text CHECK (about IN ('spindle', 'stands')),
  place      integer NOT NULL,
  active     boolean NOT NULL DEFAULT true
);
CREATE INDEX end_check_machine ON end_check (machine_id);
CREATE TABLE end_checked (
  leaf       text NOT NULL,
  machine_id integer NOT NULL REFERENCES machine,
  check_id   integer NOT NULL REFERENCES end_check,
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT tin_now(),
  -- what it was found to be, where it was not as the line asks
  otherwise  text CHECK (length(otherwise) BETWEEN 1 AND 300),
  PRIMARY KEY (leaf, machine_id, check_id)
);
CREATE INDEX end_checked_machine ON end_checked (machine_id);
CREATE INDEX end_checked_check ON end_checked (check_id);
CREATE INDEX end_checked_person ON end_checked (person_id);
INSERT INTO end_check (text, about, place) VALUES
  ('The spindle’s tool is put away into a free pocket by the changer, and the control shows the spindle empty.', 'spindle', 1),
  ('The axes stand where no end of them carries the weight.', NULL, 2),
  ('What stands in the magazine is what the record says.', 'stands', 3),
  ('Tools that were taken out stand on the rack with their labels, none on the bench.', NULL, 4);
GRANT SELECT, INSERT ON end_check, end_checked TO tin_app;
GRANT UPDATE (text, place, active) ON end_check TO tin_app;
GRANT UPDATE (person_id, at, otherwise) ON end_checked TO tin_app;
