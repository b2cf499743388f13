-- Up Migration
-- What the control held in each register when that was last read off. A look at a few rows says nothing of the rest of the table: what
-- differed there still does, and went unsaid once anything else was read.
CREATE TABLE control_seen (
  register_id integer PRIMARY KEY REFERENCES register,
  look_id     integer NOT NULL REFERENCES control_look,
  value       bigint NOT NULL
);
CREATE INDEX control_seen_look ON control_seen (look_id);
GRANT SELECT ON control_seen TO tin_app;

CREATE FUNCTION control_look_seen() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO control_seen AS s (register_id, look_id, value)
  SELECT DISTINCT ON ((h ->> 'register')::integer) (h ->> 'register')::integer, NEW.id, (h ->> 'value')::bigint
  FROM jsonb_array_elements(NEW.held) WITH ORDINALITY AS e (h, place)
  ORDER BY (h ->> 'register')::integer, place DESC
  ON CONFLICT (register_id) DO UPDATE SET look_id = EXCLUDED.look_id, value = EXCLUDED.value WHERE s.look_id < EXCLUDED.look_id;
  RETURN NULL;
END
$$;
CREATE TRIGGER control_look_seen AFTER INSERT ON control_look FOR EACH ROW EXECUTE FUNCTION control_look_seen();

INSERT INTO control_seen (register_id, look_id, value)
SELECT DISTINCT ON (r.id) r.id, k.id, (h ->> 'value')::bigint
FROM control_look k CROSS JOIN LATERAL jsonb_array_elements(k.held) h JOIN register r ON r.id = (h ->> 'register')::integer
ORDER BY r.id, k.id DESC;
