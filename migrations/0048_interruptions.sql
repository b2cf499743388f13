-- Up Migration
-- A program that stopped in the middle is an entry: where, with which tool, why, and what is in doubt.
INSERT INTO ledger_stage (kind, stage) VALUES ('program', 'interrupted');
CREATE INDEX ledger_interrupted ON ledger (program_id, id DESC) WHERE kind = 'program' AND stage = 'interrupted';
