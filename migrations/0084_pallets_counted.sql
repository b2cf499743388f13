-- Up Migration
-- Parts of a pallet in the queue that are counted already: by the control's count, or typed, while it still stood there.
ALTER TABLE pallet ADD cut integer NOT NULL DEFAULT 0, ADD CONSTRAINT cut_of_its_parts CHECK (cut BETWEEN 0 AND parts);
GRANT UPDATE (cut) ON pallet TO tin_app;
