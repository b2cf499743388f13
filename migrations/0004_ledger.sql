-- Up Migration
-- A reading of a feature on a part.
CREATE TABLE reading (
  id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  feature_id integer NOT NULL REFERENCES feature,
  program_id integer NOT NULL REFERENCES program,
  job_id     integer REFERENCES job,
  part       integer NOT NULL CHECK (part >= 0),
  measured   bigint NOT NULL,
  confirmed  boolean NOT NULL,
  first_off  integer CHECK (first_off > 0),
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT tin_now()
);
CREATE INDEX reading_feature ON reading (feature_id, id DESC);

-- A correction that was worked out from readings, bound to the register value it was worked out from.
CREATE TABLE proposal (
  id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  reading_id    bigint NOT NULL UNIQUE REFERENCES reading,
  feature_id    integer NOT NULL REFERENCES feature,
  register_id   integer NOT NULL REFERENCES register,
  from_value    bigint NOT NULL,
  change_value  bigint NOT NULL CHECK (change_value <> 0),
  to_value      bigint NOT NULL,
  size_before   bigint NOT NULL,
  expected_size bigint NOT NULL,
  deviation     bigint NOT NULL,
  reason        text NOT NULL,
  arithmetic    jsonb NOT NULL,
  at            timestamptz NOT NULL DEFAULT tin_now(),
  CHECK (from_value + change_value = to_value)
);

-- Everything that happens, appended and never changed: what, before, change, after, who, why, when, from which proposal.
CREATE TABLE ledger (
  id           bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  at           timestamptz NOT NULL DEFAULT tin_now(),
  kind         text NOT NULL CHECK (kind IN ('register', 'life', 'placement', 'correction', 'reading', 'assembly',
                                             'parts', 'program', 'machine', 'leaf', 'people')),
  stage        text NOT NULL,
  person_id    integer NOT NULL REFERENCES person,
  machine_id   integer REFERENCES machine,
  assembly_id  integer REFERENCES assembly,
  program_id   integer REFERENCES program,
  job_id       integer REFERENCES job,
  proposal_id  bigint REFERENCES proposal,
  reading_id   bigint REFERENCES reading,
  register_id  integer REFERENCES register,
  counter_id   integer REFERENCES life_counter,
  place_id     integer REFERENCES place,
  tool         integer,
  before_value bigint,
  change_value bigint,
  after_value  bigint,
  said         text NOT NULL,
  why          text NOT NULL DEFAULT '',
  detail       jsonb NOT NULL DEFAULT '{}',
  CHECK (before_value + change_value = after_value),
  CHECK ((kind = 'register') = (register_id IS NOT NULL AND after_value IS NOT NULL)),
  CHECK ((kind = 'life') = (counter_id IS NOT NULL AND after_value IS NOT NULL)),
  CHECK (kind <> 'placement' OR (place_id IS NOT NULL AND assembly_id IS NOT NULL AND stage IN ('in', 'out'))),
  CHECK (kind <> 'correction' OR proposal_id IS NOT NULL)
);
CREATE INDEX ledger_at ON ledger (at);
CREATE INDEX ledger_machine ON ledger (machine_id, id);
CREATE INDEX ledger_assembly ON ledger (assembly_id, id);
CREATE INDEX ledger_register ON ledger (register_id, id) WHERE register_id IS NOT NULL;
CREATE INDEX ledger_counter ON ledger (counter_id, id) WHERE counter_id IS NOT NULL;
CREATE INDEX ledger_person ON ledger (person_id, id);
CREATE INDEX ledger_proposal ON ledger (proposal_id, id) WHERE proposal_id IS NOT NULL;

-- A correction reaches its register once, and is approved once, refused once, closed once.
CREATE UNIQUE INDEX a_proposal_is_applied_once ON ledger (proposal_id) WHERE kind = 'register' AND proposal_id IS NOT NULL;
CREATE UNIQUE INDEX a_proposal_is_approved_once ON ledger (proposal_id) WHERE kind = 'correction' AND stage = 'approved';
CREATE UNIQUE INDEX a_proposal_is_closed_once ON ledger (proposal_id)
  WHERE kind = 'correction' AND stage IN ('applied', 'refused', 'superseded');
CREATE UNIQUE INDEX a_correction_is_judged_once ON ledger (proposal_id) WHERE kind = 'correction' AND stage = 'judged';

-- The present state is the sum of the ledger. This keeps that sum beside it, and refuses an entry that does not
-- start from it: two people acting at once, a stale page, a retry after a lost answer.
CREATE FUNCTION ledger_apply() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  present bigint;
BEGIN
  NEW.at := tin_now();
  IF NEW.kind = 'register' THEN
    SELECT value INTO present FROM register WHERE id = NEW.register_id FOR UPDATE;
    IF present IS DISTINCT FROM NEW.before_value THEN
      RAISE EXCEPTION 'register % holds %, not %', NEW.register_id, present, NEW.before_value USING ERRCODE = 'TA001';
    END IF;
    UPDATE register SET value = NEW.after_value WHERE id = NEW.register_id;
  ELSIF NEW.kind = 'life' THEN
    SELECT value INTO present FROM life_counter WHERE id = NEW.counter_id FOR UPDATE;
    IF present IS DISTINCT FROM NEW.before_value THEN
      RAISE EXCEPTION 'counter % holds %, not %', NEW.counter_id, present, NEW.before_value USING ERRCODE = 'TA002';
    END IF;
    UPDATE life_counter SET value = NEW.after_value WHERE id = NEW.counter_id;
  ELSIF NEW.kind = 'placement' AND NEW.stage = 'in' THEN
    INSERT INTO placement (place_id, machine_id, assembly_id, tool, since)
    VALUES (NEW.place_id, NEW.machine_id, NEW.assembly_id, NEW.tool, NEW.at);
  ELSIF NEW.kind = 'placement' THEN
    DELETE FROM placement WHERE place_id = NEW.place_id AND assembly_id = NEW.assembly_id;
    IF NOT FOUND THEN
      RAISE EXCEPTION 'assembly % is not in place %', NEW.assembly_id, NEW.place_id USING ERRCODE = 'TA003';
    END IF;
  ELSIF NEW.kind = 'assembly' AND NEW.stage = 'flag' THEN
    UPDATE assembly SET flag = NEW.detail ->> 'flag' WHERE id = NEW.assembly_id;
  ELSIF NEW.kind = 'parts' THEN
    UPDATE job SET made = made + (NEW.detail ->> 'parts')::integer WHERE id = NEW.job_id AND made = (NEW.detail ->> 'before')::integer;
    IF NOT FOUND THEN
      RAISE EXCEPTION 'job % no longer stands at % parts', NEW.job_id, NEW.detail ->> 'before' USING ERRCODE = 'TA004';
    END IF;
  END IF;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_apply BEFORE INSERT ON ledger FOR EACH ROW EXECUTE FUNCTION ledger_apply();

CREATE FUNCTION ledger_tell() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('tin', json_build_object('id', NEW.id, 'kind', NEW.kind, 'machine', NEW.machine_id)::text);
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_tell AFTER INSERT ON ledger FOR EACH ROW EXECUTE FUNCTION ledger_tell();

CREATE FUNCTION ledger_is_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'the ledger is appended to and never changed' USING ERRCODE = 'TA009';
END
$$;
CREATE TRIGGER ledger_is_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON ledger
  FOR EACH STATEMENT EXECUTE FUNCTION ledger_is_append_only();

-- Where a proposal stands, from its entries.
CREATE VIEW proposal_state AS
SELECT p.id,
       CASE
         WHEN bool_or(l.stage = 'applied') THEN 'applied'
         WHEN bool_or(l.stage = 'refused') THEN 'refused'
         WHEN bool_or(l.stage = 'superseded') THEN 'superseded'
         WHEN bool_or(l.stage = 'approved') THEN 'approved'
         ELSE 'proposed'
       END AS state,
       max(l.at) FILTER (WHERE l.stage = 'approved') AS approved_at,
       max(l.at) FILTER (WHERE l.stage = 'applied') AS applied_at,
       max(l.person_id) FILTER (WHERE l.stage = 'approved') AS approved_by,
       max(l.person_id) FILTER (WHERE l.stage = 'applied') AS applied_by,
       (max(l.detail ->> 'verdict') FILTER (WHERE l.stage = 'judged')) AS took,
       (max(l.said) FILTER (WHERE l.stage = 'judged')) AS took_words
FROM proposal p LEFT JOIN ledger l ON l.proposal_id = p.id AND l.kind = 'correction'
GROUP BY p.id;

-- Every register and counter whose kept value is not the sum of its entries; always empty.
CREATE VIEW ledger_disagreement AS
SELECT 'register' AS kind, r.id, r.value, coalesce(sum(l.change_value), 0)::bigint AS summed
FROM register r LEFT JOIN ledger l ON l.register_id = r.id AND l.kind = 'register'
GROUP BY r.id HAVING r.value <> coalesce(sum(l.change_value), 0)
UNION ALL
SELECT 'life', c.id, c.value, coalesce(sum(l.change_value), 0)::bigint
FROM life_counter c LEFT JOIN ledger l ON l.counter_id = c.id AND l.kind = 'life'
GROUP BY c.id HAVING c.value <> coalesce(sum(l.change_value), 0);
