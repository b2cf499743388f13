-- Up Migration
-- Who knows the cutter's diameter (H7): the CAM path, so that D holds wear only, or the control's D geometry.
ALTER TABLE program ADD COLUMN cutter_by text NOT NULL DEFAULT 'cam' CHECK (cutter_by IN ('cam', 'control'));
GRANT UPDATE (cutter_by) ON program TO tin_app;
