-- Up Migration

-- What is still to come of a line that is merged into another comes to the line that is left.
GRANT UPDATE (component_id) ON supply_order TO tin_app;
UPDATE supply_order o SET component_id = c.merged_into FROM component c WHERE c.id = o.component_id AND c.merged_into IS NOT NULL AND o.closed_at IS NULL;
