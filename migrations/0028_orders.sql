-- Up Migration
-- What is ordered and what is away for regrinding; how far a line is filled up; how the tables of a shop's other programs are read.
ALTER TABLE component ADD COLUMN maximum integer CHECK (maximum >= 0);
GRANT INSERT (maximum), UPDATE (maximum) ON component TO tin_app;

CREATE TABLE supply_order (
  id           integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  component_id integer NOT NULL REFERENCES component,
  kind         text NOT NULL CHECK (kind IN ('buy', 'regrind')),
  pieces       integer NOT NULL CHECK (pieces > 0),
  came         integer NOT NULL DEFAULT 0 CHECK (came >= 0),
  made_by      integer NOT NULL REFERENCES person,
  made_at      timestamptz NOT NULL DEFAULT now(),
  place        text NOT NULL DEFAULT '',
  closed_at    timestamptz,
  CHECK (came <= pieces OR kind = 'buy')
);
CREATE INDEX supply_order_open ON supply_order (component_id) WHERE closed_at IS NULL;
GRANT SELECT, INSERT ON supply_order TO tin_app;
GRANT UPDATE (came, closed_at) ON supply_order TO tin_app;

INSERT INTO ledger_stage (kind, stage) VALUES
  ('stock', 'sent'), ('stock', 'unsharpened'), ('component', 'ordered'), ('component', 'order closed'), ('component', 'came back');

ALTER TABLE import_draft ADD COLUMN reading jsonb;
GRANT UPDATE (reading, kind, rows_all) ON import_draft TO tin_app;
CREATE TABLE column_map (
  signature text PRIMARY KEY,
  reading   jsonb NOT NULL,
  person_id integer NOT NULL REFERENCES person,
  at        timestamptz NOT NULL DEFAULT now()
);
GRANT SELECT, INSERT, UPDATE ON column_map TO tin_app;
