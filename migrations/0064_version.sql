-- Up Migration
-- A process sees on which version its database stands, and says that it is not ready where that is an older one.
GRANT SELECT ON migration TO tin_app;
