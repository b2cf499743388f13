-- Up Migration
-- A look at a tool that was put back: which way its tip points, or, of a probe, that its mark is where its calibration has it (no way).
ALTER TABLE tip_look ALTER way DROP NOT NULL;
INSERT INTO ledger_stage (kind, stage) VALUES ('assembly', 'markSeen');
