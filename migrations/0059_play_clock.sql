-- Up Migration
-- A made-up cell that is played has a clock of its own, faster than the wall's. No other cell can have one, and the application
-- itself can only read it.
CREATE TABLE play_clock (
  one  boolean PRIMARY KEY DEFAULT true CHECK (one),
  -- at this moment by the wall's clock it was so late in the cell, and goes on at so many times its speed
  wall timestamptz NOT NULL,
  told timestamptz NOT NULL,
  rate double precision NOT NULL CHECK (rate >= 0 AND rate <= 3600)
);
GRANT SELECT ON play_clock TO tin_app;

CREATE OR REPLACE FUNCTION tin_now() RETURNS timestamptz LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  asked text := current_setting('tin.at', true);
  played timestamptz;
BEGIN
  IF NOT EXISTS (SELECT FROM cell WHERE demo) THEN
    RETURN clock_timestamp();
  END IF;
  IF coalesce(asked, '') <> '' THEN
    RETURN least(asked::timestamptz, clock_timestamp());
  END IF;
  SELECT told + (clock_timestamp() - wall) * rate INTO played FROM play_clock;
  RETURN coalesce(played, clock_timestamp());
END
$$;
