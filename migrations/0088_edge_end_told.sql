-- Up Migration
-- How an edge ended may be told afterwards, when somebody has looked at it, or told otherwise; the ledger keeps what was told before.
GRANT UPDATE (ended, sign, person_id) ON edge_end TO tin_app;
INSERT INTO ledger_stage (kind, stage) VALUES ('assembly', 'edgeTold');
