-- Up Migration
-- What a device kept until it could be sent was so when it was typed, and what was measured was cut before it was measured: a reading or a
-- count that arrives late has its place in the order of the entries by then (`place`). What was keyed or changed in between came after
-- those parts, though nobody knew of them.
CREATE OR REPLACE FUNCTION count_place(entry bigint, detail jsonb) RETURNS bigint LANGUAGE sql IMMUTABLE
  RETURN coalesce((detail ->> 'place')::bigint, entry);

CREATE OR REPLACE FUNCTION next_in_order() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  IF TG_TABLE_NAME <> 'reading' OR NEW.entry = 0 THEN
    NEW.entry := nextval(pg_get_serial_sequence('ledger', 'id'));
  END IF;
  RETURN NEW;
END
$$;

CREATE OR REPLACE FUNCTION cut_by_then(of_entry bigint, of_series text, said jsonb) RETURNS jsonb LANGUAGE sql STABLE AS $$
  WITH known AS (
    SELECT j.id, greatest(
             j.made - coalesce((SELECT sum(c.parts) FROM count_standing c WHERE c.job_id = j.id AND c.stage = 'made' AND c.place > of_entry), 0),
             (SELECT max(r.part) FROM reading r WHERE r.job_id = j.id AND r.doubt IS NULL AND r.entry < of_entry))::integer AS low,
           (said ->> 1)::integer AS high,
           (SELECT c.before + c.parts FROM count_standing c WHERE c.job_id = j.id AND c.stage = 'made' AND c.place > of_entry ORDER BY c.place, c.id LIMIT 1) AS next
    FROM job j WHERE j.id = of_series::integer)
  SELECT CASE
    -- a count that was taken back then stood, and none was put in its place
    WHEN EXISTS (SELECT 1 FROM ledger u JOIN ledger w ON w.id = (u.detail ->> 'of')::bigint
                 WHERE u.job_id = k.id AND u.kind = 'parts' AND u.stage = 'taken back' AND u.id > of_entry AND count_place(w.id, w.detail) < of_entry
                   AND w.stage = 'made'
                   AND NOT EXISTS (SELECT 1 FROM ledger r WHERE r.job_id = k.id AND r.kind = 'parts' AND r.stage = 'made' AND (r.detail ->> 'instead')::bigint = w.id))
      OR EXISTS (SELECT 1 FROM reading r WHERE r.job_id = k.id AND r.doubt IS NOT NULL AND r.entry < of_entry AND r.part > k.low
                 AND EXISTS (SELECT 1 FROM ledger u WHERE u.reading_id = r.id AND u.kind = 'reading' AND u.stage = 'taken back' AND u.id > of_entry))
    THEN jsonb_build_array(k.low, greatest(k.low, least(k.high, k.next)))
    ELSE jsonb_build_array(k.low, k.low) END
  FROM known k
$$;

-- a change after which something was told late
CREATE FUNCTION cut_told_late(of_machine integer, since bigint, of_series text) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  INSERT INTO cut_again (entry, series)
  SELECT l.id, of_series FROM ledger l
  WHERE l.machine_id = of_machine AND l.id > since AND l.detail -> 'cut' ? of_series AND (l.detail -> 'keyed' ->> 'of') IS DISTINCT FROM of_series
  ON CONFLICT DO NOTHING
$$;

CREATE FUNCTION ledger_told_late() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM cut_told_late(NEW.machine_id, (NEW.detail ->> 'place')::bigint, NEW.job_id::text);
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_told_late AFTER INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'parts' AND NEW.stage = 'made' AND NEW.detail ? 'place')
  EXECUTE FUNCTION ledger_told_late();

CREATE FUNCTION reading_told_late() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  -- of parts that were measured without a job nothing is counted: they are held against the order of the entries
  IF NEW.job_id IS NOT NULL AND NEW.doubt IS NULL THEN
    PERFORM cut_told_late((SELECT f.machine_id FROM feature f WHERE f.id = NEW.feature_id), NEW.entry, NEW.job_id::text);
  END IF;
  RETURN NULL;
END
$$;
CREATE TRIGGER reading_told_late AFTER INSERT ON reading FOR EACH ROW EXECUTE FUNCTION reading_told_late();
