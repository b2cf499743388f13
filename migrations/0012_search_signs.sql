-- Up Migration
-- Words are found by groups of three letters or digits, and a point, dash or stroke is neither: "6.8" and "Q-9" had none to look up,
-- and walked the whole list. Each such sign is spelled as two letters here, and the same way in what is looked for.
CREATE FUNCTION tin_search(words text) RETURNS text LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
  RETURN ' ' || replace(replace(replace(lower(words), '.', 'qp'), '-', 'qd'), '/', 'qs');
ALTER TABLE assembly DROP COLUMN search;
ALTER TABLE assembly ADD COLUMN search text GENERATED ALWAYS AS (tin_search(number || ' ' || name || ' ' || kind || ' ' || holder)) STORED;
CREATE INDEX assembly_search ON assembly USING gin (search gin_trgm_ops);
ALTER TABLE component DROP COLUMN search;
ALTER TABLE component ADD COLUMN search text
  GENERATED ALWAYS AS (tin_search(number || ' ' || name || ' ' || kind || ' ' || series || ' ' || shelf)) STORED;
CREATE INDEX component_search ON component USING gin (search gin_trgm_ops);
-- Numbers that begin with what was typed come first, and are found without a walk.
CREATE INDEX assembly_number_begins ON assembly (lower(number) COLLATE "C");
CREATE INDEX component_number_begins ON component (lower(number) COLLATE "C");
