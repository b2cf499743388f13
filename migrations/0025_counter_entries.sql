-- Up Migration
-- A count of parts that was wrong is taken back by a counter-entry, and what it took of the tools' life is given back.
INSERT INTO ledger_stage (kind, stage) VALUES ('parts', 'taken back'), ('life', 'given back');
