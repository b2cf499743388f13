-- Up Migration
-- Who roughs a size and what it leaves for the finisher, in the size; and when the size is measured.
ALTER TABLE feature ADD COLUMN rough_tool integer, ADD COLUMN rough_row integer, ADD COLUMN rough_stock bigint CHECK (rough_stock > 0);
ALTER TABLE feature ADD CONSTRAINT feature_rough CHECK (num_nonnulls(rough_tool, rough_row, rough_stock) IN (0, 3));
ALTER TABLE feature ADD COLUMN every_parts integer CHECK (every_parts BETWEEN 1 AND 10000);
ALTER TABLE feature ADD COLUMN also text[] NOT NULL DEFAULT '{}' CHECK (also <@ ARRAY['renewal', 'shiftEnd']);
GRANT UPDATE (rough_tool, rough_row, rough_stock, every_parts, also) ON feature TO tin_app;
