-- Up Migration
-- What each machine does, as its control's agent said last: one row a machine, kept by whichever process follows it.
CREATE TABLE machine_state (
  machine_id integer PRIMARY KEY REFERENCES machine,
  -- how far the agent was followed: its run, and the sequence to ask for next; null: it was never heard
  instance   text,
  next       bigint,
  state      jsonb NOT NULL,
  -- why nothing is heard of it; null: it answers
  problem    text,
  -- what was last missed, and when
  gap        text,
  gap_at     timestamptz,
  -- how far the agent's clock is off, milliseconds
  clock_off  bigint,
  seen_at    timestamptz NOT NULL
);
GRANT SELECT, INSERT, UPDATE ON machine_state TO tin_app;
