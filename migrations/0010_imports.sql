-- Up Migration
-- A file that was looked at and waits to be taken, and how far the taking has come; on any server process.
CREATE TABLE import_draft (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  person_id  integer NOT NULL REFERENCES person,
  kind       text NOT NULL CHECK (kind IN ('assemblies', 'components')),
  file_name  text NOT NULL,
  content    text NOT NULL,
  state      text NOT NULL DEFAULT 'looked' CHECK (state IN ('looked', 'running', 'cancelling', 'done', 'cancelled', 'failed')),
  rows_done  integer NOT NULL DEFAULT 0,
  rows_all   integer NOT NULL,
  answer     text NOT NULL DEFAULT '',
  touched_at timestamptz NOT NULL DEFAULT now()
);
GRANT SELECT, INSERT, DELETE ON import_draft TO tin_app;
GRANT UPDATE (state, rows_done, answer, touched_at, content) ON import_draft TO tin_app;
GRANT UPDATE (number, name, kind, interface, holder, stick_out, holder_diameter, teeth) ON assembly TO tin_app;
GRANT UPDATE (dimensions, series, flat, coolant, material, edges, regrinds) ON component TO tin_app;
