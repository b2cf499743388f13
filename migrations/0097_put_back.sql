-- Up Migration

-- Registers that a kept table has set back: few among all entries, and asked for wherever a tool's length is.
CREATE INDEX ledger_put_back ON ledger (machine_id, register_id) WHERE kind = 'register' AND detail ? 'putBack';
