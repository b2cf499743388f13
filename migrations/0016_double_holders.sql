-- A double turning holder is drawn with both of its tools: the body, and each tool about its own axis.
ALTER TABLE assembly ADD COLUMN seats jsonb;
GRANT INSERT (seats), UPDATE (seats) ON assembly TO tin_app;
