-- Up Migration
-- The kinds of changer, with what the database's own rules need of them; the same as src/core/changer/traits.ts.
CREATE TABLE changer_kind (
  kind       text PRIMARY KEY,
  -- how its places follow one another: round and round, from end to end, or in rows and columns
  ordering   text NOT NULL CHECK (ordering IN ('ring', 'line', 'grid')),
  own_places boolean NOT NULL,
  spindle    boolean NOT NULL
);
INSERT INTO changer_kind (kind, ordering, own_places, spindle) VALUES
  ('randomAccess', 'ring', false, true),
  ('fixedCarousel', 'ring', true, true),
  ('turret', 'ring', true, false),
  ('rack', 'line', true, true),
  ('chain', 'ring', false, true),
  ('tray', 'grid', false, true);
GRANT SELECT ON changer_kind TO tin_app;
ALTER TABLE machine ADD CONSTRAINT a_known_kind_of_changer FOREIGN KEY (changer_kind) REFERENCES changer_kind;

-- The pockets beside a pocket: round a ring, along a line, around it in a grid (as the drawing lays it out).
CREATE FUNCTION pockets_beside(ordering text, places integer, pocket integer) RETURNS integer[] LANGUAGE sql IMMUTABLE AS $$
  SELECT coalesce(array_agg(DISTINCT n), '{}')
  FROM (SELECT ceil(sqrt(places * 1.8))::integer AS c) grid,
    unnest(CASE ordering
      WHEN 'line' THEN ARRAY[pocket - 1, pocket + 1]
      WHEN 'grid' THEN ARRAY[
        CASE WHEN (pocket - 1) % c > 0 THEN pocket - 1 END, CASE WHEN (pocket - 1) % c < c - 1 THEN pocket + 1 END, pocket - c, pocket + c]
      ELSE ARRAY[(pocket + places - 2) % places + 1, pocket % places + 1] END) n
  WHERE n BETWEEN 1 AND places AND n <> pocket
$$;

CREATE OR REPLACE FUNCTION magazine_rules() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  broken text;
BEGIN
  SELECT CASE
      WHEN p.wide AND b.wide THEN format('pockets %s and %s are both declared wide', p.number, b.number)
      WHEN s.place_id IS NOT NULL THEN format('pocket %s is beside the wide pocket %s', b.number, p.number)
    END INTO broken
  FROM place p JOIN machine m ON m.id = p.machine_id JOIN changer_kind k ON k.kind = m.changer_kind
    JOIN place b ON b.machine_id = p.machine_id AND b.number = ANY (pockets_beside(k.ordering, m.places, p.number))
    LEFT JOIN placement s ON s.place_id = b.id
  WHERE p.wide AND p.machine_id = NEW.machine_id AND (b.wide OR s.place_id IS NOT NULL) LIMIT 1;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION '%', broken USING ERRCODE = 'TA006';
  END IF;
  SELECT format('T%s is tied to pocket %s', p.tied_tool, p.number) INTO broken
  FROM place p JOIN placement s ON s.machine_id = p.machine_id AND s.tool = p.tied_tool JOIN place q ON q.id = s.place_id
  WHERE p.machine_id = NEW.machine_id AND p.tied_tool IS NOT NULL AND q.kind = 'pocket' AND q.id <> p.id LIMIT 1;
  IF broken IS NULL THEN
    SELECT format('pocket %s is tied to T%s', p.number, p.tied_tool) INTO broken
    FROM place p JOIN placement s ON s.place_id = p.id WHERE p.machine_id = NEW.machine_id AND p.tied_tool <> s.tool LIMIT 1;
  END IF;
  IF broken IS NULL THEN
    SELECT format('pocket %s is out of service', p.number) INTO broken
    FROM place p JOIN placement s ON s.place_id = p.id WHERE p.machine_id = NEW.machine_id AND NOT p.in_service LIMIT 1;
  END IF;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION '%', broken USING ERRCODE = 'TA007';
  END IF;
  RETURN NULL;
END
$$;
DROP FUNCTION pocket_neighbours(text, integer, integer);
