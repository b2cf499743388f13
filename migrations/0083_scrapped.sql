-- Up Migration
-- Parts of a job that were cut and are scrap: they count as made, since tools were used for them and they have their numbers, and as many more
-- may be made in their place. An entry says how many more or fewer are scrap by it, and how many more or fewer are to be made.
ALTER TABLE job ADD scrapped integer NOT NULL DEFAULT 0,
  ADD CONSTRAINT scrapped_were_made CHECK (scrapped BETWEEN 0 AND made);
INSERT INTO ledger_stage (kind, stage) VALUES ('parts', 'scrapped');

CREATE OR REPLACE FUNCTION ledger_parts() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE job SET made = made + (NEW.detail ->> 'parts')::integer,
         scrapped = scrapped + coalesce((NEW.detail ->> 'scrapped')::integer, 0),
         quantity = quantity + coalesce((NEW.detail ->> 'again')::integer, 0)
  WHERE id = NEW.job_id AND made = (NEW.detail ->> 'before')::integer;
  IF NOT FOUND THEN
    RAISE EXCEPTION 'job % no longer stands at % parts', NEW.job_id, NEW.detail ->> 'before' USING ERRCODE = 'TA004';
  END IF;
  RETURN NEW;
END
$$;
