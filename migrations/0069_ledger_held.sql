-- Up Migration
-- Whoever writes an entry holds this lock, shared, from before the entry is numbered until its transaction has ended: who still writes is told by it,
-- whatever other databases of the same server are doing. The first number is "ledg" in letters.
CREATE FUNCTION ledger_held() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_advisory_xact_lock_shared(1818584167, 0);
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_held BEFORE INSERT ON ledger FOR EACH STATEMENT EXECUTE FUNCTION ledger_held();
