-- Up Migration
-- Groups of sisters on a machine (H11): how the control chooses among them, and who is in them with which rows of their own.
CREATE TABLE tool_group (
  id          integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id  integer NOT NULL REFERENCES machine,
  number      integer NOT NULL CHECK (number BETWEEN 1 AND 99999999),
  purpose     text NOT NULL,
  next        text NOT NULL CHECK (next IN ('lowest', 'mostUsed', 'leastUsed')),
  renewed     text NOT NULL CHECK (renewed IN ('atOnce', 'spareRuns')),
  spares      boolean NOT NULL,
  -- new data is taken up only when the group is initialised
  initialise  boolean NOT NULL,
  -- the T that cut the last part
  in_use      integer,
  UNIQUE (machine_id, number)
);

CREATE TABLE group_member (
  group_id    integer NOT NULL REFERENCES tool_group ON DELETE CASCADE,
  machine_id  integer NOT NULL REFERENCES machine,
  tool        integer NOT NULL CHECK (tool > 0),
  ord         integer NOT NULL CHECK (ord > 0),
  role        text NOT NULL CHECK (role IN ('original', 'spare')),
  length_rows integer[] NOT NULL CHECK (cardinality(length_rows) BETWEEN 1 AND 3),
  radius_rows integer[] NOT NULL CHECK (cardinality(radius_rows) <= 3),
  -- its data is new and the control was not told yet
  fresh       boolean NOT NULL DEFAULT true,
  PRIMARY KEY (group_id, tool),
  UNIQUE (group_id, ord),
  -- a tool is in one group
  UNIQUE (machine_id, tool)
);
GRANT SELECT, INSERT, DELETE ON tool_group, group_member TO tin_app;
GRANT UPDATE (number, purpose, next, renewed, spares, initialise, in_use) ON tool_group TO tin_app;
GRANT UPDATE (fresh) ON group_member TO tin_app;

-- what changes a member's data makes it new to the control, whoever did it
CREATE FUNCTION ledger_group() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE group_member SET fresh = true WHERE machine_id = NEW.machine_id AND tool = NEW.tool;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_group AFTER INSERT ON ledger FOR EACH ROW
  WHEN (NEW.kind = 'life' AND NEW.stage IN ('set', 'renewed') OR NEW.kind = 'placement' AND NEW.stage = 'in')
  EXECUTE FUNCTION ledger_group();

INSERT INTO ledger_stage (kind, stage) VALUES
  ('machine', 'group'), ('machine', 'groupKeyed'), ('machine', 'groupInitialised'), ('machine', 'groupRemoved');
