-- Up Migration
-- Whoever takes a reading that was told late says so (`cut_told_late`): asked of every reading that comes in, months that are brought back
-- from files looked through the whole ledger each.
DROP TRIGGER reading_told_late ON reading;
DROP FUNCTION reading_told_late();
