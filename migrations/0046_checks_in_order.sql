-- Up Migration
-- Checks, steps of a renewal and quarantines keep their place in the one order of the ledger too: which parts were cut after the last good
-- check is asked of entries, never of the clock.
ALTER TABLE tool_check ADD COLUMN entry bigint NOT NULL DEFAULT 0;
ALTER TABLE renewal_step ADD COLUMN entry bigint NOT NULL DEFAULT 0;
ALTER TABLE quarantine ADD COLUMN entry bigint NOT NULL DEFAULT 0;
-- the old ones by the clock, which is all that is known of them
UPDATE tool_check t SET entry = coalesce((SELECT max(l.id) FROM ledger l WHERE l.at <= t.at), 0);
UPDATE renewal_step t SET entry = coalesce((SELECT max(l.id) FROM ledger l WHERE l.at <= t.at), 0);
UPDATE quarantine t SET entry = coalesce((SELECT max(l.id) FROM ledger l WHERE l.at <= t.opened_at), 0);
CREATE TRIGGER next_in_order BEFORE INSERT ON tool_check FOR EACH ROW EXECUTE FUNCTION next_in_order();
CREATE TRIGGER next_in_order BEFORE INSERT ON renewal_step FOR EACH ROW EXECUTE FUNCTION next_in_order();
CREATE TRIGGER next_in_order BEFORE INSERT ON quarantine FOR EACH ROW EXECUTE FUNCTION next_in_order();
