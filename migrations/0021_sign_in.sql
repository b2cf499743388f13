-- Up Migration
-- A try is counted before it is verified, so that many at once are counted too; what comes of it is written behind it. A tablet
-- that somebody signed in on is known by a secret of its own, and is not shut out by what strangers try elsewhere.
ALTER TABLE sign_in_attempt ADD COLUMN tablet bytea;
GRANT UPDATE (good) ON sign_in_attempt TO tin_app;
CREATE INDEX sign_in_attempt_tablet ON sign_in_attempt (badge, tablet) WHERE good AND tablet IS NOT NULL;
