-- Up Migration
-- Years of readings, and of tables that controls held, may stand in files: which rows of which month, where, and by which hash.
CREATE TABLE archive (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  kind       text NOT NULL CHECK (kind IN ('readings', 'looks')),
  -- by the cell's clock: 2024-03
  month      text NOT NULL CHECK (month ~ '^\d{4}-(0[1-9]|1[0-2])$'),
  file       text NOT NULL UNIQUE,
  lines      integer NOT NULL CHECK (lines > 0),
  bytes      bigint NOT NULL,
  sha256     text NOT NULL CHECK (sha256 ~ '^[0-9a-f]{64}$'),
  made_at    timestamptz NOT NULL DEFAULT tin_now(),
  -- since when its rows are in the database again
  back_at    timestamptz
);
GRANT SELECT ON archive TO tin_app;

-- An entry goes on naming a reading that stands in a file. That it was there when the entry was made is asked then; nobody but the
-- archive, which is no part of the application, takes one out.
ALTER TABLE ledger DROP CONSTRAINT ledger_reading_id_fkey;
CREATE FUNCTION ledger_reading_is_there() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM reading WHERE id = NEW.reading_id) THEN
    RAISE EXCEPTION 'there is no reading %', NEW.reading_id USING ERRCODE = '23503';
  END IF;
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_reading_is_there AFTER INSERT ON ledger FOR EACH ROW WHEN (NEW.reading_id IS NOT NULL)
  EXECUTE FUNCTION ledger_reading_is_there();
