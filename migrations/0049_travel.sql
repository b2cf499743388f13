-- Up Migration
-- How far the axes of a mill travel, off its plate; null: not recorded.
ALTER TABLE machine ADD COLUMN travel_x bigint CHECK (travel_x > 0);
ALTER TABLE machine ADD COLUMN travel_y bigint CHECK (travel_y > 0);
GRANT UPDATE (travel_x, travel_y) ON machine TO tin_app;
