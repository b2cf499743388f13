-- Up Migration
-- Who is signed in where, so that a lead can see it and end it.
ALTER TABLE session
  ADD COLUMN id integer GENERATED ALWAYS AS IDENTITY UNIQUE,
  ADD COLUMN address text NOT NULL DEFAULT '' CHECK (length(address) <= 100),
  -- the machine that the tablet stands at
  ADD COLUMN machine_id integer REFERENCES machine;
CREATE INDEX session_person ON session (person_id);
CREATE INDEX session_machine ON session (machine_id);
CREATE INDEX sign_in_attempt_at ON sign_in_attempt (at);
