-- Up Migration
-- Parts that come off together, cut in several places with the same rows: in which of them the part that was measured was cut, where
-- that is known.
ALTER TABLE reading
  ADD COLUMN place smallint,
  ADD COLUMN places smallint,
  ADD CONSTRAINT reading_place CHECK ((place IS NULL) = (places IS NULL) AND place BETWEEN 1 AND places);
