-- Up Migration
-- What a program cuts, and at what speed and for how many minutes each edge ran: lives are compared within one material, and by speed.
ALTER TABLE program ADD COLUMN material text CHECK (length(material) BETWEEN 1 AND 60);
GRANT UPDATE (material) ON program TO tin_app;
ALTER TABLE edge_end ADD COLUMN material text;
-- metres a minute; null where it ran at several, or nobody can tell
ALTER TABLE edge_end ADD COLUMN speed double precision CHECK (speed > 0);
ALTER TABLE edge_end ADD COLUMN cut_milliseconds bigint CHECK (cut_milliseconds >= 0);
INSERT INTO ledger_stage (kind, stage) VALUES ('program', 'material');
