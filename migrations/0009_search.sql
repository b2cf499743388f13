-- Up Migration
-- Find-as-you-type over tens of thousands of tools and hundreds of thousands of components.
CREATE EXTENSION IF NOT EXISTS pg_trgm;
DROP INDEX assembly_words;
ALTER TABLE assembly ADD COLUMN search text GENERATED ALWAYS AS (lower(number || ' ' || name || ' ' || kind || ' ' || holder)) STORED;
CREATE INDEX assembly_search ON assembly USING gin (search gin_trgm_ops);
ALTER TABLE component ADD COLUMN search text
  GENERATED ALWAYS AS (lower(number || ' ' || name || ' ' || kind || ' ' || series || ' ' || shelf)) STORED;
CREATE INDEX component_search ON component USING gin (search gin_trgm_ops);
CREATE INDEX component_short ON component (id) WHERE stock < minimum;
CREATE INDEX assembly_kind ON assembly (kind);
