-- Up Migration
-- Whatever moves a register or changes an edge is entered with the parts cut until then. Where those were counted wrong, or a part's number
-- was typed wrong, and it was taken back later, the entry stays and what it says is known better: the parts by the counts and readings that
-- stand. Nobody can tell of parts between those and what was counted next, unless the count was put right at once (`instead`: it stands
-- where the wrong one stood).
CREATE TABLE cut_again (
  entry bigint NOT NULL,
  series text NOT NULL,
  PRIMARY KEY (entry, series)
);
GRANT SELECT ON cut_again TO tin_app;

CREATE FUNCTION count_place(entry bigint, detail jsonb) RETURNS bigint LANGUAGE sql IMMUTABLE
  RETURN coalesce((detail ->> 'instead')::bigint, entry);

-- counts that stand, each with where it stands in the order of the entries
CREATE OR REPLACE VIEW count_standing AS
  SELECT l.id, l.job_id, l.machine_id, l.person_id, l.stage, l.at,
         l.at - make_interval(secs => coalesce((l.detail ->> 'ago')::integer, 0)) AS told_at,
         (l.detail ->> 'before')::integer AS before, (l.detail ->> 'parts')::integer AS parts,
         count_place(l.id, l.detail) AS place
  FROM ledger l
  WHERE l.kind = 'parts' AND l.stage IN ('made', 'broken off')
    AND NOT EXISTS (SELECT 1 FROM ledger u WHERE u.kind = 'parts' AND u.stage = 'taken back' AND (u.detail ->> 'of')::bigint = l.id);

CREATE FUNCTION cut_by_then(of_entry bigint, of_series text, said jsonb) RETURNS jsonb LANGUAGE sql STABLE AS $$
  WITH known AS (
    SELECT j.id, j.made - coalesce((SELECT sum(c.parts) FROM count_standing c WHERE c.job_id = j.id AND c.stage = 'made' AND c.place > of_entry), 0) AS counted,
           coalesce((SELECT max(r.part) FROM reading r WHERE r.job_id = j.id AND r.doubt IS NULL AND r.entry < of_entry), 0) AS measured,
           (SELECT c.before + c.parts FROM count_standing c WHERE c.job_id = j.id AND c.stage = 'made' AND c.place > of_entry ORDER BY c.place LIMIT 1) AS next
    FROM job j WHERE j.id = of_series::integer),
  bounds AS (
    SELECT k.id, least((said ->> 0)::integer, greatest(k.counted, k.measured)) AS low, (said ->> 1)::integer AS high, k.next FROM known k)
  SELECT CASE
    WHEN EXISTS (SELECT 1 FROM ledger u JOIN ledger w ON w.id = (u.detail ->> 'of')::bigint
                 WHERE u.job_id = b.id AND u.kind = 'parts' AND u.stage = 'taken back' AND u.id > of_entry AND count_place(w.id, w.detail) < of_entry
                   AND w.stage = 'made' AND NOT EXISTS (SELECT 1 FROM count_standing c WHERE c.job_id = b.id AND c.place = count_place(w.id, w.detail)))
      OR EXISTS (SELECT 1 FROM reading r WHERE r.job_id = b.id AND r.doubt IS NOT NULL AND r.entry < of_entry AND r.part > b.low
                 AND EXISTS (SELECT 1 FROM ledger u WHERE u.reading_id = r.id AND u.kind = 'reading' AND u.stage = 'taken back' AND u.id > of_entry))
    THEN jsonb_build_array(b.low, greatest(b.low, least(b.high, b.next)))
    ELSE jsonb_build_array(b.low, b.low) END
  FROM bounds b
$$;

-- the parts cut until an entry, as far as they are known now
CREATE FUNCTION cut_known(of_entry bigint, detail jsonb) RETURNS jsonb LANGUAGE sql STABLE AS $$
  SELECT CASE WHEN EXISTS (SELECT 1 FROM cut_again a WHERE a.entry = of_entry) THEN
    -- parts that were measured without a job are counted by nothing else: what was typed later was cut later
    (SELECT (detail -> 'cut') - coalesce(array_agg(a.series) FILTER (WHERE a.series LIKE 'p%'), '{}')
            || coalesce(jsonb_object_agg(a.series, cut_by_then(of_entry, a.series, detail -> 'cut' -> a.series)) FILTER (WHERE a.series NOT LIKE 'p%'), '{}')
     FROM cut_again a WHERE a.entry = of_entry)
  ELSE detail -> 'cut' END
$$;

-- what was entered since, by what stood then; but for what somebody said of the parts themselves
CREATE FUNCTION ledger_cut_again() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  since bigint;
  of_series text;
BEGIN
  IF NEW.kind = 'parts' THEN
    SELECT count_place(w.id, w.detail), NEW.job_id::text INTO since, of_series FROM ledger w WHERE w.id = (NEW.detail ->> 'of')::bigint;
  ELSE
    SELECT r.entry, coalesce(r.job_id::text, 'p' || r.program_id) INTO since, of_series FROM reading r WHERE r.id = NEW.reading_id;
  END IF;
  INSERT INTO cut_again (entry, series)
  SELECT l.id, of_series FROM ledger l
  WHERE l.machine_id = NEW.machine_id AND l.id > since AND l.detail -> 'cut' ? of_series
    AND (l.detail -> 'keyed' ->> 'of') IS DISTINCT FROM of_series
  ON CONFLICT DO NOTHING;
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_cut_again AFTER INSERT ON ledger FOR EACH ROW
  WHEN (NEW.kind IN ('parts', 'reading') AND NEW.stage = 'taken back')
  EXECUTE FUNCTION ledger_cut_again();

-- what was taken back before this was known of
INSERT INTO cut_again (entry, series)
SELECT l.id, w.series FROM (
  SELECT u.machine_id, (u.detail ->> 'of')::bigint AS since, u.job_id::text AS series, u.id AS back FROM ledger u
  WHERE u.kind = 'parts' AND u.stage = 'taken back'
  UNION ALL
  SELECT u.machine_id, r.entry, coalesce(r.job_id::text, 'p' || r.program_id), u.id FROM ledger u JOIN reading r ON r.id = u.reading_id
  WHERE u.kind = 'reading' AND u.stage = 'taken back') w
JOIN ledger l ON l.machine_id = w.machine_id AND l.id > w.since AND l.id < w.back AND l.detail -> 'cut' ? w.series
  AND (l.detail -> 'keyed' ->> 'of') IS DISTINCT FROM w.series
ON CONFLICT DO NOTHING;
