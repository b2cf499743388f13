-- Up Migration

-- What is told of an entry says by which act it was written: whoever did it has it with the answer, and need not ask once more.
CREATE OR REPLACE FUNCTION ledger_tell() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('tin', json_build_object('kind', NEW.kind, 'machine', NEW.machine_id,
    'act', nullif(current_setting('tin.act', true), ''))::text);
  RETURN NULL;
END
$$;
