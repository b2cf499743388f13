-- Up Migration
-- Whether a row was read off as recorded is asked on every page, and there are few such entries among all that corrections left.
CREATE INDEX ledger_cleared ON ledger (proposal_id, id) WHERE kind = 'correction' AND stage = 'cleared';
