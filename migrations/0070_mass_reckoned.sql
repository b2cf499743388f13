-- Up Migration
-- What nobody weighed was reckoned from the outline below the gauge line, without the taper above it, and passed for weighed.
ALTER TABLE assembly ADD COLUMN mass_reckoned boolean NOT NULL DEFAULT false;
UPDATE assembly a SET mass_reckoned = true, mass = a.mass + t.grams
FROM (VALUES ('steep 30', 186), ('steep 40', 515), ('steep 45', 1060), ('steep 50', 1940), ('hollow 32', 33), ('hollow 40', 64),
  ('hollow 50', 126), ('hollow 63', 250), ('hollow 80', 516), ('hollow 100', 1010), ('shank 12', 0), ('shank 16', 0), ('shank 20', 0),
  ('shank 25', 0), ('shank 32', 0)) AS t (interface, grams)
WHERE t.interface = a.interface AND a.mass IS NOT NULL
  AND EXISTS (SELECT 1 FROM assembly_part p JOIN component c ON c.id = p.component_id
              WHERE p.assembly_id = a.id AND p.role <> 'insert' AND NOT c.dimensions ? 'WT');
GRANT INSERT (mass_reckoned), UPDATE (mass_reckoned) ON assembly TO tin_app;
