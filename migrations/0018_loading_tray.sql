-- Up Migration
-- Places of the small tray that feeds a machine from its outside tray while it cuts (H4); null where there is none.
ALTER TABLE machine ADD COLUMN loading_places integer CHECK (loading_places BETWEEN 1 AND 20);
