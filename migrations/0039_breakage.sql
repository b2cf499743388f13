-- Up Migration
-- Which tools are checked for breakage, as the lead decided; what is not here is as the app proposes.
CREATE TABLE tool_check_plan (
  machine_id  integer NOT NULL REFERENCES machine,
  tool        integer NOT NULL CHECK (tool > 0),
  moment      text NOT NULL CHECK (moment IN ('none', 'before', 'after', 'both')),
  method      text NOT NULL CHECK (method IN ('setter', 'laser', 'picture')),
  short_limit bigint NOT NULL CHECK (short_limit > 0),
  long_limit  bigint NOT NULL CHECK (long_limit > 0),
  person_id   integer NOT NULL REFERENCES person,
  at          timestamptz NOT NULL DEFAULT tin_now(),
  PRIMARY KEY (machine_id, tool)
);
CREATE INDEX tool_check_plan_person ON tool_check_plan (person_id);

-- What checks said of a tool.
CREATE TABLE tool_check (
  id          integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id  integer NOT NULL REFERENCES machine,
  tool        integer NOT NULL,
  assembly_id integer NOT NULL REFERENCES assembly,
  method      text NOT NULL CHECK (method IN ('setter', 'laser', 'picture')),
  source      text NOT NULL CHECK (source IN ('typed', 'control')),
  reference   bigint,
  measured    bigint NOT NULL,
  verdict     text NOT NULL CHECK (verdict IN ('asExpected', 'broken', 'pullingOut', 'cannotTell')),
  doubt       text,
  -- the job that ran, and the last of its parts that the tool had cut by then
  job_id      integer REFERENCES job,
  last_part   integer CHECK (last_part >= 0),
  person_id   integer NOT NULL REFERENCES person,
  at          timestamptz NOT NULL DEFAULT tin_now(),
  CHECK ((job_id IS NULL) = (last_part IS NULL)),
  CHECK ((verdict = 'cannotTell') = (doubt IS NOT NULL))
);
CREATE INDEX tool_check_assembly ON tool_check (assembly_id, id);
CREATE INDEX tool_check_machine ON tool_check (machine_id, tool);
CREATE INDEX tool_check_job ON tool_check (job_id);
CREATE INDEX tool_check_person ON tool_check (person_id);

-- A broken tool holds its parts back until each was inspected, the tool replaced and measured, and somebody clears it.
CREATE TABLE quarantine (
  id          integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  assembly_id integer NOT NULL REFERENCES assembly,
  verdict     text NOT NULL CHECK (verdict IN ('broken', 'pullingOut')),
  machine_id  integer REFERENCES machine,
  tool        integer,
  -- where it was found: the job that ran and the part in the machine; none: it was not cutting
  job_id      integer REFERENCES job,
  part        integer CHECK (part > 0),
  why         text NOT NULL,
  opened_by   integer NOT NULL REFERENCES person,
  opened_at   timestamptz NOT NULL DEFAULT tin_now(),
  closed_by   integer REFERENCES person,
  closed_at   timestamptz,
  outcome     text CHECK (outcome IN ('cleared', 'mistaken')),
  CHECK ((job_id IS NULL) = (part IS NULL)),
  CHECK ((closed_at IS NULL) = (outcome IS NULL) AND (closed_at IS NULL) = (closed_by IS NULL))
);
CREATE UNIQUE INDEX one_open_quarantine_of_an_assembly ON quarantine (assembly_id) WHERE closed_at IS NULL;
CREATE INDEX quarantine_machine ON quarantine (machine_id);
CREATE INDEX quarantine_job ON quarantine (job_id);
CREATE INDEX quarantine_opened_by ON quarantine (opened_by);
CREATE INDEX quarantine_closed_by ON quarantine (closed_by);

CREATE TABLE quarantine_part (
  quarantine_id integer NOT NULL REFERENCES quarantine,
  job_id        integer NOT NULL REFERENCES job,
  part          integer NOT NULL CHECK (part > 0),
  outcome       text NOT NULL CHECK (outcome IN ('good', 'rework', 'scrap')),
  found         text NOT NULL,
  person_id     integer NOT NULL REFERENCES person,
  at            timestamptz NOT NULL DEFAULT tin_now(),
  PRIMARY KEY (quarantine_id, job_id, part)
);
CREATE INDEX quarantine_part_job ON quarantine_part (job_id);
CREATE INDEX quarantine_part_person ON quarantine_part (person_id);

GRANT SELECT, INSERT ON tool_check_plan, tool_check, quarantine, quarantine_part TO tin_app;
GRANT UPDATE (moment, method, short_limit, long_limit, person_id, at) ON tool_check_plan TO tin_app;
GRANT UPDATE (closed_by, closed_at, outcome) ON quarantine TO tin_app;
GRANT UPDATE (outcome, found, person_id, at) ON quarantine_part TO tin_app;

-- whoever clears the flag of a broken tool ends its quarantine first
CREATE FUNCTION ledger_quarantine() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  IF NEW.detail ->> 'flag' IS DISTINCT FROM 'broken'
     AND EXISTS (SELECT 1 FROM quarantine q WHERE q.assembly_id = NEW.assembly_id AND q.closed_at IS NULL) THEN
    RAISE EXCEPTION 'assembly % is in quarantine', NEW.assembly_id USING ERRCODE = 'TA010';
  END IF;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_quarantine BEFORE INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'assembly' AND NEW.stage = 'flag') EXECUTE FUNCTION ledger_quarantine();

-- what was flagged broken before has its quarantine from its flag on
INSERT INTO quarantine (assembly_id, verdict, machine_id, tool, why, opened_by, opened_at)
SELECT DISTINCT ON (a.id) a.id, 'broken', l.machine_id, l.tool, coalesce(l.why, ''), l.person_id, l.at
FROM assembly a JOIN ledger l ON l.assembly_id = a.id AND l.kind = 'assembly' AND l.stage = 'flag' AND l.detail ->> 'flag' = 'broken'
WHERE a.flag = 'broken' ORDER BY a.id, l.id DESC;

INSERT INTO ledger_stage (kind, stage) VALUES ('assembly', 'checked'), ('assembly', 'quarantined'), ('assembly', 'partsInspected'), ('assembly', 'quarantineEnded'), ('machine', 'toolCheck');
