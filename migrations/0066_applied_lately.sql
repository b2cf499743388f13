-- Up Migration
-- Corrections that were keyed lately are asked for on every leaf: from the end of this, however many entries there are.
CREATE INDEX ledger_applied_at ON ledger (at) WHERE kind = 'correction' AND stage = 'applied';
