-- Up Migration
-- The text that sets registers says its unit, and may be guarded by what the registers show.
UPDATE machine
SET dialect = '{"unitCodes": {"mm": "G21", "in": "G20"}, "guardRegister": {}, "guardEnd": []}'::jsonb || dialect;
