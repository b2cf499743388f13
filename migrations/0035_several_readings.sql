-- Up Migration
-- Several readings of one size of one part, as they were typed; what counts is their mean.
ALTER TABLE reading ADD COLUMN typed bigint[] CHECK (cardinality(typed) BETWEEN 2 AND 20);
GRANT INSERT (typed) ON reading TO tin_app;
