-- The schema as it stood after migration 0021, with the list of migrations that it has run. Never changed.
SET statement_timeout = 0;
SET lock_timeout = 0;
SET idle_in_transaction_session_timeout = 0;
SET client_encoding = 'UTF8';
SET standard_conforming_strings = on;
SELECT pg_catalog.set_config('search_path', '', false);
SET check_function_bodies = false;
SET xmloption = content;
SET client_min_messages = warning;
SET row_security = off;
COMMENT ON SCHEMA public IS 'standard public schema';
CREATE FUNCTION public.ledger_apply() RETURNS trigger
    LANGUAGE plpgsql SECURITY DEFINER
    SET search_path TO 'public', 'pg_temp'
    AS $$
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
  ELSIF NEW.kind = 'placement' AND NEW.stage = 'out' THEN
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
ALTER FUNCTION public.ledger_apply() OWNER TO tin_owner;
CREATE FUNCTION public.ledger_is_append_only() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
  RAISE EXCEPTION 'the ledger is appended to and never changed' USING ERRCODE = 'TA009';
END
$$;
ALTER FUNCTION public.ledger_is_append_only() OWNER TO tin_owner;
CREATE FUNCTION public.ledger_magazine() RETURNS trigger
    LANGUAGE plpgsql SECURITY DEFINER
    SET search_path TO 'public', 'pg_temp'
    AS $$
DECLARE
  spindle integer;
  moved   integer;
BEGIN
  IF NEW.kind = 'placement' AND NEW.stage = 'called' THEN
    SELECT id INTO STRICT spindle FROM place WHERE machine_id = NEW.machine_id AND kind = 'spindle';
    PERFORM 1 FROM machine WHERE id = NEW.machine_id FOR UPDATE;
    IF (SELECT s.assembly_id FROM placement s WHERE s.place_id = spindle) IS DISTINCT FROM (NEW.detail ->> 'spindle')::integer
       OR (SELECT s.assembly_id FROM placement s WHERE s.place_id = NEW.place_id) IS DISTINCT FROM (NEW.detail ->> 'pocket')::integer THEN
      RAISE EXCEPTION 'the map of machine % is another by now', NEW.machine_id USING ERRCODE = 'TA008';
    END IF;
    UPDATE placement SET place_id = CASE WHEN place_id = spindle THEN NEW.place_id ELSE spindle END
    WHERE place_id IN (spindle, NEW.place_id);
    UPDATE machine SET at_pocket = (SELECT number FROM place WHERE id = NEW.place_id) WHERE id = NEW.machine_id;
  ELSIF NEW.kind = 'pocket' THEN
    UPDATE place SET
      wide = CASE NEW.stage WHEN 'declared' THEN true WHEN 'undeclared' THEN false ELSE wide END,
      tied_tool = CASE NEW.stage WHEN 'declared' THEN NEW.tool WHEN 'undeclared' THEN NULL ELSE tied_tool END,
      heavy = CASE NEW.stage WHEN 'heavy' THEN true WHEN 'light' THEN false ELSE heavy END,
      reserved = CASE NEW.stage WHEN 'reserved' THEN true WHEN 'released' THEN false ELSE reserved END,
      in_service = CASE NEW.stage WHEN 'inService' THEN true WHEN 'outOfService' THEN false ELSE in_service END
    WHERE id = NEW.place_id;
    GET DIAGNOSTICS moved = ROW_COUNT;
    IF moved = 0 OR NEW.stage NOT IN ('declared', 'undeclared', 'heavy', 'light', 'reserved', 'released', 'inService', 'outOfService') THEN
      RAISE EXCEPTION 'no such change of a pocket' USING ERRCODE = 'TA007';
    END IF;
  ELSIF NEW.kind = 'machine' AND NEW.stage IN ('spindleUnsure', 'spindleSure') THEN
    UPDATE machine SET spindle_sure = (NEW.stage = 'spindleSure') WHERE id = NEW.machine_id;
  END IF;
  RETURN NEW;
END
$$;
ALTER FUNCTION public.ledger_magazine() OWNER TO tin_owner;
CREATE FUNCTION public.ledger_order() RETURNS trigger
    LANGUAGE plpgsql SECURITY DEFINER
    SET search_path TO 'public', 'pg_temp'
    AS $$
BEGIN
  IF NEW.kind = 'placement' AND NEW.stage = 'in' THEN
    UPDATE placement SET entry = NEW.id WHERE place_id = NEW.place_id AND assembly_id = NEW.assembly_id;
  ELSIF NEW.kind = 'assembly' AND NEW.stage IN ('built', 'indexed', 'reground') THEN
    UPDATE assembly SET changed_entry = NEW.id WHERE id = NEW.assembly_id;
  END IF;
  RETURN NEW;
END
$$;
ALTER FUNCTION public.ledger_order() OWNER TO tin_owner;
CREATE FUNCTION public.ledger_stock() RETURNS trigger
    LANGUAGE plpgsql SECURITY DEFINER
    SET search_path TO 'public', 'pg_temp'
    AS $$
DECLARE
  present integer;
BEGIN
  IF NEW.kind = 'stock' THEN
    SELECT stock INTO present FROM component WHERE id = NEW.component_id FOR UPDATE;
    IF present IS DISTINCT FROM NEW.before_value THEN
      RAISE EXCEPTION 'component % has %, not %', NEW.component_id, present, NEW.before_value USING ERRCODE = 'TA005';
    END IF;
    UPDATE component SET stock = NEW.after_value WHERE id = NEW.component_id;
  ELSIF NEW.kind = 'assembly' AND NEW.stage IN ('built', 'indexed', 'reground') THEN
    UPDATE assembly SET changed_at = tin_now() WHERE id = NEW.assembly_id;
  END IF;
  RETURN NEW;
END
$$;
ALTER FUNCTION public.ledger_stock() OWNER TO tin_owner;
CREATE FUNCTION public.ledger_tell() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
  PERFORM pg_notify('tin', json_build_object('id', NEW.id, 'kind', NEW.kind, 'machine', NEW.machine_id)::text);
  RETURN NULL;
END
$$;
ALTER FUNCTION public.ledger_tell() OWNER TO tin_owner;
CREATE FUNCTION public.magazine_rules() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
  broken text;
BEGIN
  SELECT CASE
      WHEN p.wide AND b.wide THEN format('pockets %s and %s are both declared wide', p.number, b.number)
      WHEN s.place_id IS NOT NULL THEN format('pocket %s is beside the wide pocket %s', b.number, p.number)
    END INTO broken
  FROM place p JOIN machine m ON m.id = p.machine_id
    JOIN place b ON b.machine_id = p.machine_id AND b.number = ANY (pocket_neighbours(m.changer_kind, m.places, p.number))
    LEFT JOIN placement s ON s.place_id = b.id
  WHERE p.wide AND p.machine_id = NEW.machine_id AND (b.wide OR s.place_id IS NOT NULL) LIMIT 1;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION '%', broken USING ERRCODE = 'TA006';
  END IF;
  SELECT format('T%s is tied to pocket %s', p.tied_tool, p.number) INTO broken
  FROM place p JOIN placement s ON s.machine_id = p.machine_id AND s.tool = p.tied_tool JOIN place q ON q.id = s.place_id
  WHERE p.machine_id = NEW.machine_id AND p.tied_tool IS NOT NULL AND q.kind = 'pocket' AND q.id <> p.id LIMIT 1;
  IF broken IS NULL THEN
    SELECT format('pocket %s is tied to T%s', p.number, p.tied_tool) INTO broken
    FROM place p JOIN placement s ON s.place_id = p.id WHERE p.machine_id = NEW.machine_id AND p.tied_tool <> s.tool LIMIT 1;
  END IF;
  IF broken IS NULL THEN
    SELECT format('pocket %s is out of service', p.number) INTO broken
    FROM place p JOIN placement s ON s.place_id = p.id WHERE p.machine_id = NEW.machine_id AND NOT p.in_service LIMIT 1;
  END IF;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION '%', broken USING ERRCODE = 'TA007';
  END IF;
  RETURN NULL;
END
$$;
ALTER FUNCTION public.magazine_rules() OWNER TO tin_owner;
CREATE FUNCTION public.next_in_order() RETURNS trigger
    LANGUAGE plpgsql SECURITY DEFINER
    SET search_path TO 'public', 'pg_temp'
    AS $$
BEGIN
  NEW.entry := nextval(pg_get_serial_sequence('ledger', 'id'));
  RETURN NEW;
END
$$;
ALTER FUNCTION public.next_in_order() OWNER TO tin_owner;
CREATE FUNCTION public.plate_rules() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
  broken text;
BEGIN
  SELECT CASE
      WHEN s.tool > m.highest_tool THEN format('T%s stands in %s, whose control goes to T%s', s.tool, m.name, m.highest_tool)
      ELSE format('%s is larger than the cell of pocket %s', a.number, p.number)
    END INTO broken
  FROM placement s JOIN place p ON p.id = s.place_id JOIN machine m ON m.id = s.machine_id JOIN assembly a ON a.id = s.assembly_id
  WHERE s.machine_id = CASE TG_TABLE_NAME WHEN 'machine' THEN (to_jsonb(NEW) ->> 'id')::integer ELSE (to_jsonb(NEW) ->> 'machine_id')::integer END
    AND (s.tool > m.highest_tool OR greatest(a.diameter, a.holder_diameter, coalesce(a.widest, 0)) > p.cell)
  LIMIT 1;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION '%', broken USING ERRCODE = 'TA009';
  END IF;
  RETURN NULL;
END
$$;
ALTER FUNCTION public.plate_rules() OWNER TO tin_owner;
CREATE FUNCTION public.pocket_neighbours(changer_kind text, places integer, pocket integer) RETURNS integer[]
    LANGUAGE sql IMMUTABLE
    AS $$
  SELECT coalesce(array_agg(DISTINCT n), '{}')
  FROM (SELECT ceil(sqrt(places * 1.8))::integer AS c) tray,
    unnest(CASE
      WHEN changer_kind = 'rack' THEN ARRAY[pocket - 1, pocket + 1]
      WHEN changer_kind = 'tray' THEN ARRAY[
        CASE WHEN (pocket - 1) % c > 0 THEN pocket - 1 END, CASE WHEN (pocket - 1) % c < c - 1 THEN pocket + 1 END, pocket - c, pocket + c]
      ELSE ARRAY[(pocket + places - 2) % places + 1, pocket % places + 1] END) n
  WHERE n BETWEEN 1 AND places AND n <> pocket
$$;
ALTER FUNCTION public.pocket_neighbours(changer_kind text, places integer, pocket integer) OWNER TO tin_owner;
CREATE FUNCTION public.tin_now() RETURNS timestamp with time zone
    LANGUAGE plpgsql SECURITY DEFINER
    SET search_path TO 'public', 'pg_temp'
    AS $$
DECLARE
  told text := current_setting('tin.at', true);
BEGIN
  IF coalesce(told, '') = '' OR NOT EXISTS (SELECT FROM cell WHERE demo) THEN
    RETURN clock_timestamp();
  END IF;
  RETURN least(told::timestamptz, clock_timestamp());
END
$$;
ALTER FUNCTION public.tin_now() OWNER TO tin_owner;
CREATE FUNCTION public.tin_search(words text) RETURNS text
    LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
    RETURN (' '::text || replace(replace(replace(lower(words), '.'::text, 'qp'::text), '-'::text, 'qd'::text), '/'::text, 'qs'::text));
ALTER FUNCTION public.tin_search(words text) OWNER TO tin_owner;
SET default_tablespace = '';
SET default_table_access_method = heap;
CREATE TABLE public.assembly (
    id integer NOT NULL,
    number text NOT NULL,
    name text NOT NULL,
    kind text NOT NULL,
    interface text NOT NULL,
    holder text NOT NULL,
    diameter bigint NOT NULL,
    corner_radius bigint NOT NULL,
    stick_out bigint NOT NULL,
    gauge_length bigint NOT NULL,
    holder_diameter bigint NOT NULL,
    teeth integer NOT NULL,
    flag text,
    outline jsonb,
    widest bigint,
    mass double precision,
    moment double precision,
    speed_limit integer,
    override text DEFAULT ''::text NOT NULL,
    changed_at timestamp with time zone,
    search text GENERATED ALWAYS AS (public.tin_search(((((((number || ' '::text) || name) || ' '::text) || kind) || ' '::text) || holder))) STORED,
    seats jsonb,
    changed_entry bigint DEFAULT 0 NOT NULL,
    CONSTRAINT assembly_corner_radius_check CHECK ((corner_radius >= 0)),
    CONSTRAINT assembly_diameter_check CHECK ((diameter >= 0)),
    CONSTRAINT assembly_flag_check CHECK ((flag = ANY (ARRAY['broken'::text, 'expired'::text, 'locked'::text])))
);
ALTER TABLE public.assembly OWNER TO tin_owner;
ALTER TABLE public.assembly ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.assembly_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.assembly_part (
    assembly_id integer NOT NULL,
    role text NOT NULL,
    component_id integer NOT NULL,
    count integer DEFAULT 1 NOT NULL,
    edges_used integer DEFAULT 0 NOT NULL,
    CONSTRAINT assembly_part_count_check CHECK (((count >= 1) AND (count <= 40))),
    CONSTRAINT assembly_part_role_check CHECK ((role = ANY (ARRAY['knob'::text, 'holder'::text, 'extension'::text, 'nut'::text, 'adapter'::text, 'cutter'::text, 'second'::text, 'insert'::text])))
);
ALTER TABLE public.assembly_part OWNER TO tin_owner;
CREATE TABLE public.cell (
    only_one boolean DEFAULT true NOT NULL,
    name text NOT NULL,
    time_zone text NOT NULL,
    demo boolean DEFAULT false NOT NULL,
    CONSTRAINT cell_only_one_check CHECK (only_one)
);
ALTER TABLE public.cell OWNER TO tin_owner;
CREATE TABLE public.component (
    id integer NOT NULL,
    number text NOT NULL,
    name text NOT NULL,
    kind text NOT NULL,
    dimensions jsonb NOT NULL,
    interface text DEFAULT ''::text NOT NULL,
    series text DEFAULT ''::text NOT NULL,
    flat boolean DEFAULT false NOT NULL,
    coolant boolean DEFAULT false NOT NULL,
    material text DEFAULT 'steel'::text NOT NULL,
    torque double precision,
    cost_cents integer,
    edges integer,
    regrinds integer,
    shelf text DEFAULT ''::text NOT NULL,
    minimum integer DEFAULT 0 NOT NULL,
    reground_from integer,
    stock integer DEFAULT 0 NOT NULL,
    merged_into integer,
    search text GENERATED ALWAYS AS (public.tin_search(((((((((number || ' '::text) || name) || ' '::text) || kind) || ' '::text) || series) || ' '::text) || shelf))) STORED,
    CONSTRAINT component_check CHECK ((merged_into <> id)),
    CONSTRAINT component_cost_cents_check CHECK ((cost_cents >= 0)),
    CONSTRAINT component_edges_check CHECK (((edges >= 1) AND (edges <= 16))),
    CONSTRAINT component_material_check CHECK ((material = ANY (ARRAY['carbide'::text, 'steel'::text]))),
    CONSTRAINT component_minimum_check CHECK ((minimum >= 0)),
    CONSTRAINT component_number_check CHECK (((length(number) >= 1) AND (length(number) <= 30))),
    CONSTRAINT component_regrinds_check CHECK ((regrinds >= 0)),
    CONSTRAINT component_stock_check CHECK ((stock >= 0)),
    CONSTRAINT component_torque_check CHECK ((torque > (0)::double precision))
);
ALTER TABLE public.component OWNER TO tin_owner;
ALTER TABLE public.component ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.component_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.definition (
    id integer NOT NULL,
    machine_id integer NOT NULL,
    program_number text NOT NULL,
    tool integer NOT NULL,
    kind text NOT NULL,
    diameter bigint,
    corner_radius bigint,
    reach bigint,
    teeth integer,
    thread text DEFAULT ''::text NOT NULL,
    least_life double precision,
    written_by integer NOT NULL,
    CONSTRAINT definition_corner_radius_check CHECK ((corner_radius >= 0)),
    CONSTRAINT definition_diameter_check CHECK ((diameter > 0)),
    CONSTRAINT definition_least_life_check CHECK (((least_life >= (0)::double precision) AND (least_life <= (1)::double precision))),
    CONSTRAINT definition_reach_check CHECK ((reach > 0)),
    CONSTRAINT definition_teeth_check CHECK ((teeth > 0)),
    CONSTRAINT definition_tool_check CHECK ((tool > 0))
);
ALTER TABLE public.definition OWNER TO tin_owner;
ALTER TABLE public.definition ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.definition_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.feature (
    id integer NOT NULL,
    machine_id integer NOT NULL,
    program_number text NOT NULL,
    name text NOT NULL,
    kind text NOT NULL,
    nominal bigint NOT NULL,
    upper bigint NOT NULL,
    lower bigint NOT NULL,
    target bigint NOT NULL,
    tool integer NOT NULL,
    "row" integer NOT NULL,
    policy text NOT NULL,
    dead_band bigint NOT NULL,
    average_of integer NOT NULL,
    operator_limit bigint NOT NULL,
    gauge text NOT NULL,
    CONSTRAINT feature_check CHECK ((lower < upper)),
    CONSTRAINT feature_check1 CHECK (((target >= (nominal + lower)) AND (target <= (nominal + upper))))
);
ALTER TABLE public.feature OWNER TO tin_owner;
ALTER TABLE public.feature ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.feature_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.fork_capture (
    id integer NOT NULL,
    machine_id integer NOT NULL,
    fork integer NOT NULL,
    x bigint NOT NULL,
    y bigint NOT NULL,
    z bigint NOT NULL,
    person_id integer NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    CONSTRAINT fork_capture_fork_check CHECK ((fork > 0))
);
ALTER TABLE public.fork_capture OWNER TO tin_owner;
ALTER TABLE public.fork_capture ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.fork_capture_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.import_draft (
    id integer NOT NULL,
    person_id integer NOT NULL,
    kind text NOT NULL,
    file_name text NOT NULL,
    content text NOT NULL,
    state text DEFAULT 'looked'::text NOT NULL,
    rows_done integer DEFAULT 0 NOT NULL,
    rows_all integer NOT NULL,
    answer text DEFAULT ''::text NOT NULL,
    touched_at timestamp with time zone DEFAULT now() NOT NULL,
    CONSTRAINT import_draft_kind_check CHECK ((kind = ANY (ARRAY['assemblies'::text, 'components'::text]))),
    CONSTRAINT import_draft_state_check CHECK ((state = ANY (ARRAY['looked'::text, 'running'::text, 'cancelling'::text, 'done'::text, 'cancelled'::text, 'failed'::text])))
);
ALTER TABLE public.import_draft OWNER TO tin_owner;
ALTER TABLE public.import_draft ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.import_draft_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.job (
    id integer NOT NULL,
    machine_id integer NOT NULL,
    program_id integer NOT NULL,
    quantity integer NOT NULL,
    cycle_milliseconds bigint NOT NULL,
    state text NOT NULL,
    made integer DEFAULT 0 NOT NULL,
    set_up_at timestamp with time zone,
    CONSTRAINT job_cycle_milliseconds_check CHECK ((cycle_milliseconds > 0)),
    CONSTRAINT job_quantity_check CHECK ((quantity > 0)),
    CONSTRAINT job_state_check CHECK ((state = ANY (ARRAY['waiting'::text, 'running'::text, 'done'::text])))
);
ALTER TABLE public.job OWNER TO tin_owner;
ALTER TABLE public.job ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.job_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.leaf_answer (
    note_id bigint NOT NULL,
    person_id integer NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    text text NOT NULL,
    CONSTRAINT leaf_answer_text_check CHECK (((length(text) >= 1) AND (length(text) <= 1000)))
);
ALTER TABLE public.leaf_answer OWNER TO tin_owner;
CREATE TABLE public.leaf_note (
    id bigint NOT NULL,
    leaf text NOT NULL,
    kind text NOT NULL,
    machine_id integer,
    person_id integer NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    text text NOT NULL,
    CONSTRAINT leaf_note_kind_check CHECK ((kind = ANY (ARRAY['note'::text, 'question'::text]))),
    CONSTRAINT leaf_note_text_check CHECK (((length(text) >= 1) AND (length(text) <= 1000)))
);
ALTER TABLE public.leaf_note OWNER TO tin_owner;
ALTER TABLE public.leaf_note ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.leaf_note_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.leaf_signature (
    leaf text NOT NULL,
    side text NOT NULL,
    person_id integer NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    state jsonb NOT NULL,
    CONSTRAINT leaf_signature_side_check CHECK ((side = ANY (ARRAY['leaving'::text, 'coming'::text])))
);
ALTER TABLE public.leaf_signature OWNER TO tin_owner;
CREATE TABLE public.ledger (
    id bigint NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    kind text NOT NULL,
    stage text NOT NULL,
    person_id integer NOT NULL,
    machine_id integer,
    assembly_id integer,
    program_id integer,
    job_id integer,
    proposal_id bigint,
    reading_id bigint,
    register_id integer,
    counter_id integer,
    place_id integer,
    tool integer,
    before_value bigint,
    change_value bigint,
    after_value bigint,
    said text NOT NULL,
    why text DEFAULT ''::text NOT NULL,
    detail jsonb DEFAULT '{}'::jsonb NOT NULL,
    component_id integer,
    CONSTRAINT ledger_check CHECK (((before_value + change_value) = after_value)),
    CONSTRAINT ledger_check1 CHECK (((kind = 'register'::text) = ((register_id IS NOT NULL) AND (after_value IS NOT NULL)))),
    CONSTRAINT ledger_check2 CHECK (((kind = 'life'::text) = ((counter_id IS NOT NULL) AND (after_value IS NOT NULL)))),
    CONSTRAINT ledger_check4 CHECK (((kind <> 'correction'::text) OR (proposal_id IS NOT NULL))),
    CONSTRAINT ledger_kind_check CHECK ((kind = ANY (ARRAY['register'::text, 'life'::text, 'placement'::text, 'correction'::text, 'reading'::text, 'assembly'::text, 'parts'::text, 'program'::text, 'machine'::text, 'leaf'::text, 'people'::text, 'component'::text, 'stock'::text, 'pocket'::text]))),
    CONSTRAINT ledger_placement_check CHECK (((kind <> 'placement'::text) OR ((place_id IS NOT NULL) AND (machine_id IS NOT NULL) AND ((stage = 'called'::text) OR ((assembly_id IS NOT NULL) AND (stage = ANY (ARRAY['in'::text, 'out'::text]))))))),
    CONSTRAINT ledger_pocket_check CHECK (((kind <> 'pocket'::text) OR (place_id IS NOT NULL))),
    CONSTRAINT ledger_stock_check CHECK (((kind = 'stock'::text) = ((component_id IS NOT NULL) AND (after_value IS NOT NULL))))
);
ALTER TABLE public.ledger OWNER TO tin_owner;
CREATE VIEW public.ledger_disagreement AS
SELECT
    NULL::text AS kind,
    NULL::integer AS id,
    NULL::bigint AS value,
    NULL::bigint AS summed;
ALTER TABLE public.ledger_disagreement OWNER TO tin_owner;
ALTER TABLE public.ledger ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.ledger_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.life_counter (
    id integer NOT NULL,
    assembly_id integer NOT NULL,
    basis text NOT NULL,
    full_life bigint NOT NULL,
    value bigint DEFAULT 0 NOT NULL,
    CONSTRAINT life_counter_basis_check CHECK ((basis = ANY (ARRAY['pieces'::text, 'holes'::text, 'minutes'::text]))),
    CONSTRAINT life_counter_full_life_check CHECK ((full_life > 0))
);
ALTER TABLE public.life_counter OWNER TO tin_owner;
ALTER TABLE public.life_counter ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.life_counter_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.load_plan (
    id integer NOT NULL,
    machine_id integer NOT NULL,
    wanted jsonb NOT NULL,
    made_by integer NOT NULL,
    made_at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    closed_by integer,
    closed_at timestamp with time zone,
    outcome text,
    CONSTRAINT load_plan_check CHECK ((((closed_at IS NULL) = (outcome IS NULL)) AND ((closed_at IS NULL) = (closed_by IS NULL)))),
    CONSTRAINT load_plan_outcome_check CHECK ((outcome = ANY (ARRAY['done'::text, 'dropped'::text])))
);
ALTER TABLE public.load_plan OWNER TO tin_owner;
ALTER TABLE public.load_plan ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.load_plan_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.load_tick (
    id integer NOT NULL,
    plan_id integer NOT NULL,
    step text NOT NULL,
    said text NOT NULL,
    outcome text NOT NULL,
    why text DEFAULT ''::text NOT NULL,
    person_id integer NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    CONSTRAINT load_tick_outcome_check CHECK ((outcome = ANY (ARRAY['done'::text, 'wrong'::text])))
);
ALTER TABLE public.load_tick OWNER TO tin_owner;
ALTER TABLE public.load_tick ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.load_tick_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.machine (
    id integer NOT NULL,
    name text NOT NULL,
    kind text NOT NULL,
    words text NOT NULL,
    unit text NOT NULL,
    changer_kind text NOT NULL,
    places integer NOT NULL,
    pitch_mm double precision NOT NULL,
    interface text NOT NULL,
    highest_tool integer NOT NULL,
    highest_speed integer NOT NULL,
    length_school text NOT NULL,
    plane_constant bigint NOT NULL,
    master_length bigint NOT NULL,
    x_reckoning text NOT NULL,
    cutter_reckoning text NOT NULL,
    increment bigint NOT NULL,
    wear_limit bigint NOT NULL,
    expiry text NOT NULL,
    dialect jsonb NOT NULL,
    control_address text,
    longest bigint,
    widest bigint,
    widest_alone bigint,
    heaviest double precision,
    moment double precision,
    knob text DEFAULT ''::text NOT NULL,
    through_coolant boolean DEFAULT false NOT NULL,
    spindle_sure boolean DEFAULT true NOT NULL,
    at_pocket integer,
    arm_seconds double precision DEFAULT 3 NOT NULL,
    pocket_seconds double precision DEFAULT 0.3 NOT NULL,
    heavy_factor double precision DEFAULT 1.5 NOT NULL,
    loading_places integer,
    heaviest_all double precision,
    unbalance double precision,
    swing bigint,
    CONSTRAINT machine_arm_seconds_check CHECK ((arm_seconds > (0)::double precision)),
    CONSTRAINT machine_cutter_reckoning_check CHECK ((cutter_reckoning = ANY (ARRAY['diameter'::text, 'radius'::text]))),
    CONSTRAINT machine_expiry_check CHECK ((expiry = ANY (ARRAY['atZero'::text, 'belowZero'::text]))),
    CONSTRAINT machine_heaviest_all_check CHECK ((heaviest_all > (0)::double precision)),
    CONSTRAINT machine_heavy_factor_check CHECK ((heavy_factor >= (1)::double precision)),
    CONSTRAINT machine_increment_check CHECK ((increment > 0)),
    CONSTRAINT machine_kind_check CHECK ((kind = ANY (ARRAY['mill'::text, 'lathe'::text]))),
    CONSTRAINT machine_loading_places_check CHECK (((loading_places >= 1) AND (loading_places <= 20))),
    CONSTRAINT machine_pocket_seconds_check CHECK ((pocket_seconds >= (0)::double precision)),
    CONSTRAINT machine_swing_check CHECK ((swing > 0)),
    CONSTRAINT machine_unbalance_check CHECK ((unbalance > (0)::double precision)),
    CONSTRAINT machine_unit_check CHECK ((unit = ANY (ARRAY['mm'::text, 'in'::text]))),
    CONSTRAINT machine_wear_limit_check CHECK ((wear_limit > 0)),
    CONSTRAINT machine_x_reckoning_check CHECK ((x_reckoning = ANY (ARRAY['diameter'::text, 'radius'::text])))
);
ALTER TABLE public.machine OWNER TO tin_owner;
ALTER TABLE public.machine ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.machine_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.migration (
    id integer NOT NULL,
    name character varying(255) NOT NULL,
    run_on timestamp without time zone NOT NULL
);
ALTER TABLE public.migration OWNER TO tin_owner;
CREATE SEQUENCE public.migration_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER TABLE public.migration_id_seq OWNER TO tin_owner;
ALTER SEQUENCE public.migration_id_seq OWNED BY public.migration.id;
CREATE TABLE public.once (
    key uuid NOT NULL,
    person_id integer NOT NULL,
    act text NOT NULL,
    request text NOT NULL,
    answer jsonb NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL
);
ALTER TABLE public.once OWNER TO tin_owner;
CREATE TABLE public.person (
    id integer NOT NULL,
    badge text NOT NULL,
    name text NOT NULL,
    role text NOT NULL,
    pin_hash text NOT NULL,
    active boolean DEFAULT true NOT NULL,
    CONSTRAINT person_badge_check CHECK ((badge ~ '^[0-9]{3,12}$'::text)),
    CONSTRAINT person_name_check CHECK (((length(name) >= 1) AND (length(name) <= 80))),
    CONSTRAINT person_role_check CHECK ((role = ANY (ARRAY['lead'::text, 'setter'::text, 'operator'::text, 'inspector'::text, 'crib'::text, 'viewer'::text])))
);
ALTER TABLE public.person OWNER TO tin_owner;
ALTER TABLE public.person ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.person_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.place (
    id integer NOT NULL,
    machine_id integer NOT NULL,
    kind text NOT NULL,
    number integer NOT NULL,
    in_service boolean DEFAULT true NOT NULL,
    reserved boolean DEFAULT false NOT NULL,
    wide boolean DEFAULT false NOT NULL,
    heavy boolean DEFAULT false NOT NULL,
    tied_tool integer,
    cell bigint,
    CONSTRAINT a_wide_pocket_is_tied CHECK ((wide = (tied_tool IS NOT NULL))),
    CONSTRAINT place_cell_check CHECK ((cell > 0)),
    CONSTRAINT place_check CHECK (((kind = 'spindle'::text) = (number = 0))),
    CONSTRAINT place_kind_check CHECK ((kind = ANY (ARRAY['pocket'::text, 'spindle'::text]))),
    CONSTRAINT place_tied_tool_check CHECK ((tied_tool > 0))
);
ALTER TABLE public.place OWNER TO tin_owner;
ALTER TABLE public.place ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.place_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.placement (
    place_id integer NOT NULL,
    machine_id integer NOT NULL,
    assembly_id integer NOT NULL,
    tool integer NOT NULL,
    since timestamp with time zone NOT NULL,
    entry bigint DEFAULT 0 NOT NULL,
    CONSTRAINT placement_tool_check CHECK ((tool > 0))
);
ALTER TABLE public.placement OWNER TO tin_owner;
CREATE TABLE public.presetting (
    id bigint NOT NULL,
    assembly_id integer NOT NULL,
    gauge_length bigint NOT NULL,
    diameter bigint,
    corner_radius bigint,
    run_out bigint,
    instrument text NOT NULL,
    person_id integer NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    entry bigint DEFAULT 0 NOT NULL,
    CONSTRAINT presetting_corner_radius_check CHECK ((corner_radius >= 0)),
    CONSTRAINT presetting_diameter_check CHECK ((diameter > 0)),
    CONSTRAINT presetting_gauge_length_check CHECK ((gauge_length > 0)),
    CONSTRAINT presetting_run_out_check CHECK ((run_out >= 0))
);
ALTER TABLE public.presetting OWNER TO tin_owner;
ALTER TABLE public.presetting ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.presetting_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.program (
    id integer NOT NULL,
    machine_id integer NOT NULL,
    number text NOT NULL,
    title text NOT NULL,
    file_name text NOT NULL,
    revision integer NOT NULL,
    sha256 text NOT NULL,
    text text NOT NULL,
    lines integer NOT NULL,
    unit text NOT NULL,
    remarks jsonb NOT NULL,
    parts_per_cycle integer DEFAULT 1 NOT NULL,
    brought_in_at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    brought_in_by integer NOT NULL,
    cutter_by text DEFAULT 'cam'::text NOT NULL,
    CONSTRAINT program_cutter_by_check CHECK ((cutter_by = ANY (ARRAY['cam'::text, 'control'::text]))),
    CONSTRAINT program_parts_per_cycle_check CHECK (((parts_per_cycle >= 1) AND (parts_per_cycle <= 100)))
);
ALTER TABLE public.program OWNER TO tin_owner;
CREATE TABLE public.program_call (
    program_id integer NOT NULL,
    ord integer NOT NULL,
    tool integer NOT NULL,
    line integer NOT NULL,
    last_line integer NOT NULL,
    holes integer NOT NULL,
    cut_milliseconds bigint NOT NULL,
    reading jsonb NOT NULL
);
ALTER TABLE public.program_call OWNER TO tin_owner;
ALTER TABLE public.program ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.program_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.proposal (
    id bigint NOT NULL,
    reading_id bigint NOT NULL,
    feature_id integer NOT NULL,
    register_id integer NOT NULL,
    from_value bigint NOT NULL,
    change_value bigint NOT NULL,
    to_value bigint NOT NULL,
    size_before bigint NOT NULL,
    expected_size bigint NOT NULL,
    deviation bigint NOT NULL,
    reason text NOT NULL,
    arithmetic jsonb NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    CONSTRAINT proposal_change_value_check CHECK ((change_value <> 0)),
    CONSTRAINT proposal_check CHECK (((from_value + change_value) = to_value))
);
ALTER TABLE public.proposal OWNER TO tin_owner;
ALTER TABLE public.proposal ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.proposal_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE VIEW public.proposal_state AS
 SELECT p.id,
        CASE
            WHEN bool_or((l.stage = 'applied'::text)) THEN 'applied'::text
            WHEN bool_or((l.stage = 'refused'::text)) THEN 'refused'::text
            WHEN bool_or((l.stage = 'superseded'::text)) THEN 'superseded'::text
            WHEN bool_or((l.stage = 'approved'::text)) THEN 'approved'::text
            ELSE 'proposed'::text
        END AS state,
    max(l.at) FILTER (WHERE (l.stage = 'approved'::text)) AS approved_at,
    max(l.at) FILTER (WHERE (l.stage = 'applied'::text)) AS applied_at,
    max(l.person_id) FILTER (WHERE (l.stage = 'approved'::text)) AS approved_by,
    max(l.person_id) FILTER (WHERE (l.stage = 'applied'::text)) AS applied_by,
    max((l.detail ->> 'verdict'::text)) FILTER (WHERE (l.stage = 'judged'::text)) AS took,
    max(l.said) FILTER (WHERE (l.stage = 'judged'::text)) AS took_words
   FROM (public.proposal p
     LEFT JOIN public.ledger l ON (((l.proposal_id = p.id) AND (l.kind = 'correction'::text))))
  GROUP BY p.id;
ALTER TABLE public.proposal_state OWNER TO tin_owner;
CREATE TABLE public.rack_confirmation (
    machine_id integer NOT NULL,
    step text NOT NULL,
    person_id integer NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL
);
ALTER TABLE public.rack_confirmation OWNER TO tin_owner;
CREATE TABLE public.rack_setting (
    machine_id integer NOT NULL,
    opening text DEFAULT ''::text NOT NULL,
    slide_in bigint,
    slide_clear bigint,
    clearance bigint,
    bump bigint,
    spindle_seconds double precision,
    CONSTRAINT rack_setting_bump_check CHECK ((bump >= 0)),
    CONSTRAINT rack_setting_clearance_check CHECK ((clearance > 0)),
    CONSTRAINT rack_setting_opening_check CHECK ((opening = ANY (ARRAY[''::text, 'X+'::text, 'X-'::text, 'Y+'::text, 'Y-'::text]))),
    CONSTRAINT rack_setting_spindle_seconds_check CHECK ((spindle_seconds > (0)::double precision))
);
ALTER TABLE public.rack_setting OWNER TO tin_owner;
CREATE TABLE public.reading (
    id bigint NOT NULL,
    feature_id integer NOT NULL,
    program_id integer NOT NULL,
    job_id integer,
    part integer NOT NULL,
    measured bigint NOT NULL,
    confirmed boolean NOT NULL,
    first_off integer,
    person_id integer NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    entry bigint DEFAULT 0 NOT NULL,
    CONSTRAINT reading_first_off_check CHECK ((first_off > 0)),
    CONSTRAINT reading_part_check CHECK ((part >= 0))
);
ALTER TABLE public.reading OWNER TO tin_owner;
ALTER TABLE public.reading ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.reading_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.register (
    id integer NOT NULL,
    machine_id integer NOT NULL,
    "row" integer NOT NULL,
    kind text NOT NULL,
    value bigint DEFAULT 0 NOT NULL,
    CONSTRAINT register_kind_check CHECK ((kind = ANY (ARRAY['lengthGeometry'::text, 'lengthWear'::text, 'cutterGeometry'::text, 'cutterWear'::text, 'xGeometry'::text, 'zGeometry'::text, 'xWear'::text, 'zWear'::text, 'noseRadius'::text, 'tipDirection'::text])))
);
ALTER TABLE public.register OWNER TO tin_owner;
ALTER TABLE public.register ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.register_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.renewal (
    id integer NOT NULL,
    assembly_id integer NOT NULL,
    started_by integer NOT NULL,
    started_at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    finished_at timestamp with time zone
);
ALTER TABLE public.renewal OWNER TO tin_owner;
ALTER TABLE public.renewal ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.renewal_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.renewal_step (
    renewal_id integer NOT NULL,
    step text NOT NULL,
    person_id integer NOT NULL,
    at timestamp with time zone DEFAULT public.tin_now() NOT NULL,
    CONSTRAINT renewal_step_step_check CHECK ((step = ANY (ARRAY['changed'::text, 'lifeSet'::text, 'flagCleared'::text, 'measured'::text, 'wearZeroed'::text])))
);
ALTER TABLE public.renewal_step OWNER TO tin_owner;
CREATE TABLE public.session (
    token_hash bytea NOT NULL,
    person_id integer NOT NULL,
    started_at timestamp with time zone DEFAULT now() NOT NULL,
    seen_at timestamp with time zone DEFAULT now() NOT NULL,
    expires_at timestamp with time zone NOT NULL
);
ALTER TABLE public.session OWNER TO tin_owner;
CREATE TABLE public.shift_pattern (
    id integer NOT NULL,
    name text NOT NULL,
    start_minute integer NOT NULL,
    length_minutes integer NOT NULL,
    days integer[] NOT NULL,
    CONSTRAINT shift_pattern_length_minutes_check CHECK (((length_minutes >= 30) AND (length_minutes <= 1440))),
    CONSTRAINT shift_pattern_name_check CHECK ((name ~ '^[A-Za-z][A-Za-z0-9-]{0,19}$'::text)),
    CONSTRAINT shift_pattern_start_minute_check CHECK (((start_minute >= 0) AND (start_minute <= 1439)))
);
ALTER TABLE public.shift_pattern OWNER TO tin_owner;
ALTER TABLE public.shift_pattern ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.shift_pattern_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.sign_in_attempt (
    id bigint NOT NULL,
    badge text NOT NULL,
    address text NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL,
    good boolean NOT NULL,
    tablet bytea
);
ALTER TABLE public.sign_in_attempt OWNER TO tin_owner;
ALTER TABLE public.sign_in_attempt ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.sign_in_attempt_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
ALTER TABLE ONLY public.migration ALTER COLUMN id SET DEFAULT nextval('public.migration_id_seq'::regclass);
INSERT INTO public.migration VALUES (1, '0001_people', '2026-11-26 02:00:10.108468');
INSERT INTO public.migration VALUES (2, '0002_cell', '2026-11-26 02:00:10.146456');
INSERT INTO public.migration VALUES (3, '0003_programs', '2026-11-26 02:00:10.297659');
INSERT INTO public.migration VALUES (4, '0004_ledger', '2026-11-26 02:00:10.338056');
INSERT INTO public.migration VALUES (5, '0005_leaf', '2026-11-26 02:00:10.412475');
INSERT INTO public.migration VALUES (6, '0006_rights', '2026-11-26 02:00:10.446975');
INSERT INTO public.migration VALUES (7, '0007_components', '2026-11-26 02:00:10.451624');
INSERT INTO public.migration VALUES (8, '0008_definitions', '2026-11-26 02:00:10.4786');
INSERT INTO public.migration VALUES (9, '0009_search', '2026-11-26 02:00:10.582118');
INSERT INTO public.migration VALUES (10, '0010_imports', '2026-11-26 02:00:10.699428');
INSERT INTO public.migration VALUES (11, '0011_cutter', '2026-11-26 02:00:10.705948');
INSERT INTO public.migration VALUES (12, '0012_search_signs', '2026-11-26 02:00:10.711618');
INSERT INTO public.migration VALUES (13, '0013_assembly_parts', '2026-11-26 02:00:10.738799');
INSERT INTO public.migration VALUES (14, '0014_magazines', '2026-11-26 02:00:10.741793');
INSERT INTO public.migration VALUES (15, '0015_rack', '2026-11-26 02:00:10.756569');
INSERT INTO public.migration VALUES (16, '0016_double_holders', '2026-11-26 02:00:10.770064');
INSERT INTO public.migration VALUES (17, '0017_load_plan', '2026-11-26 02:00:10.774353');
INSERT INTO public.migration VALUES (18, '0018_loading_tray', '2026-11-26 02:00:10.78766');
INSERT INTO public.migration VALUES (19, '0019_plate', '2026-11-26 02:00:10.78892');
INSERT INTO public.migration VALUES (20, '0020_order_by_entry', '2026-11-26 02:00:10.866479');
INSERT INTO public.migration VALUES (21, '0021_sign_in', '2026-11-26 02:00:10.884281');
SELECT pg_catalog.setval('public.assembly_id_seq', 1, false);
SELECT pg_catalog.setval('public.component_id_seq', 1, false);
SELECT pg_catalog.setval('public.definition_id_seq', 1, false);
SELECT pg_catalog.setval('public.feature_id_seq', 1, false);
SELECT pg_catalog.setval('public.fork_capture_id_seq', 1, false);
SELECT pg_catalog.setval('public.import_draft_id_seq', 1, false);
SELECT pg_catalog.setval('public.job_id_seq', 1, false);
SELECT pg_catalog.setval('public.leaf_note_id_seq', 1, false);
SELECT pg_catalog.setval('public.ledger_id_seq', 1, false);
SELECT pg_catalog.setval('public.life_counter_id_seq', 1, false);
SELECT pg_catalog.setval('public.load_plan_id_seq', 1, false);
SELECT pg_catalog.setval('public.load_tick_id_seq', 1, false);
SELECT pg_catalog.setval('public.machine_id_seq', 1, false);
SELECT pg_catalog.setval('public.migration_id_seq', 21, true);
SELECT pg_catalog.setval('public.person_id_seq', 1, false);
SELECT pg_catalog.setval('public.place_id_seq', 1, false);
SELECT pg_catalog.setval('public.presetting_id_seq', 1, false);
SELECT pg_catalog.setval('public.program_id_seq', 1, false);
SELECT pg_catalog.setval('public.proposal_id_seq', 1, false);
SELECT pg_catalog.setval('public.reading_id_seq', 1, false);
SELECT pg_catalog.setval('public.register_id_seq', 1, false);
SELECT pg_catalog.setval('public.renewal_id_seq', 1, false);
SELECT pg_catalog.setval('public.shift_pattern_id_seq', 1, false);
SELECT pg_catalog.setval('public.sign_in_attempt_id_seq', 1, false);
ALTER TABLE ONLY public.assembly
    ADD CONSTRAINT assembly_number_key UNIQUE (number);
ALTER TABLE ONLY public.assembly_part
    ADD CONSTRAINT assembly_part_pkey PRIMARY KEY (assembly_id, role);
ALTER TABLE ONLY public.assembly
    ADD CONSTRAINT assembly_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.cell
    ADD CONSTRAINT cell_pkey PRIMARY KEY (only_one);
ALTER TABLE ONLY public.component
    ADD CONSTRAINT component_number_key UNIQUE (number);
ALTER TABLE ONLY public.component
    ADD CONSTRAINT component_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.definition
    ADD CONSTRAINT definition_machine_id_program_number_tool_key UNIQUE (machine_id, program_number, tool);
ALTER TABLE ONLY public.definition
    ADD CONSTRAINT definition_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.feature
    ADD CONSTRAINT feature_machine_id_program_number_name_key UNIQUE (machine_id, program_number, name);
ALTER TABLE ONLY public.feature
    ADD CONSTRAINT feature_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.fork_capture
    ADD CONSTRAINT fork_capture_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.import_draft
    ADD CONSTRAINT import_draft_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.leaf_answer
    ADD CONSTRAINT leaf_answer_pkey PRIMARY KEY (note_id);
ALTER TABLE ONLY public.leaf_note
    ADD CONSTRAINT leaf_note_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.leaf_signature
    ADD CONSTRAINT leaf_signature_pkey PRIMARY KEY (leaf, side);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.life_counter
    ADD CONSTRAINT life_counter_assembly_id_key UNIQUE (assembly_id);
ALTER TABLE ONLY public.life_counter
    ADD CONSTRAINT life_counter_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.load_plan
    ADD CONSTRAINT load_plan_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.load_tick
    ADD CONSTRAINT load_tick_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.machine
    ADD CONSTRAINT machine_name_key UNIQUE (name);
ALTER TABLE ONLY public.machine
    ADD CONSTRAINT machine_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.migration
    ADD CONSTRAINT migration_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.once
    ADD CONSTRAINT once_pkey PRIMARY KEY (key);
ALTER TABLE ONLY public.placement
    ADD CONSTRAINT one_assembly_in_a_place PRIMARY KEY (place_id) DEFERRABLE;
ALTER TABLE ONLY public.placement
    ADD CONSTRAINT one_assembly_in_one_place UNIQUE (assembly_id);
ALTER TABLE ONLY public.placement
    ADD CONSTRAINT one_tool_number_on_a_machine UNIQUE (machine_id, tool);
ALTER TABLE ONLY public.person
    ADD CONSTRAINT person_badge_key UNIQUE (badge);
ALTER TABLE ONLY public.person
    ADD CONSTRAINT person_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.place
    ADD CONSTRAINT place_id_machine_id_key UNIQUE (id, machine_id);
ALTER TABLE ONLY public.place
    ADD CONSTRAINT place_machine_id_number_key UNIQUE (machine_id, number);
ALTER TABLE ONLY public.place
    ADD CONSTRAINT place_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.presetting
    ADD CONSTRAINT presetting_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.program_call
    ADD CONSTRAINT program_call_pkey PRIMARY KEY (program_id, ord);
ALTER TABLE ONLY public.program
    ADD CONSTRAINT program_machine_id_number_revision_key UNIQUE (machine_id, number, revision);
ALTER TABLE ONLY public.program
    ADD CONSTRAINT program_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.proposal
    ADD CONSTRAINT proposal_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.proposal
    ADD CONSTRAINT proposal_reading_id_key UNIQUE (reading_id);
ALTER TABLE ONLY public.rack_confirmation
    ADD CONSTRAINT rack_confirmation_pkey PRIMARY KEY (machine_id, step);
ALTER TABLE ONLY public.rack_setting
    ADD CONSTRAINT rack_setting_pkey PRIMARY KEY (machine_id);
ALTER TABLE ONLY public.reading
    ADD CONSTRAINT reading_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.register
    ADD CONSTRAINT register_machine_id_row_kind_key UNIQUE (machine_id, "row", kind);
ALTER TABLE ONLY public.register
    ADD CONSTRAINT register_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.renewal
    ADD CONSTRAINT renewal_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.renewal_step
    ADD CONSTRAINT renewal_step_pkey PRIMARY KEY (renewal_id, step);
ALTER TABLE ONLY public.session
    ADD CONSTRAINT session_pkey PRIMARY KEY (token_hash);
ALTER TABLE ONLY public.shift_pattern
    ADD CONSTRAINT shift_pattern_name_key UNIQUE (name);
ALTER TABLE ONLY public.shift_pattern
    ADD CONSTRAINT shift_pattern_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.sign_in_attempt
    ADD CONSTRAINT sign_in_attempt_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.leaf_signature
    ADD CONSTRAINT two_people_sign UNIQUE (leaf, person_id);
CREATE UNIQUE INDEX a_correction_is_judged_once ON public.ledger USING btree (proposal_id) WHERE ((kind = 'correction'::text) AND (stage = 'judged'::text));
CREATE UNIQUE INDEX a_proposal_is_applied_once ON public.ledger USING btree (proposal_id) WHERE ((kind = 'register'::text) AND (proposal_id IS NOT NULL));
CREATE UNIQUE INDEX a_proposal_is_approved_once ON public.ledger USING btree (proposal_id) WHERE ((kind = 'correction'::text) AND (stage = 'approved'::text));
CREATE UNIQUE INDEX a_proposal_is_closed_once ON public.ledger USING btree (proposal_id) WHERE ((kind = 'correction'::text) AND (stage = ANY (ARRAY['applied'::text, 'refused'::text, 'superseded'::text])));
CREATE INDEX assembly_kind ON public.assembly USING btree (kind);
CREATE INDEX assembly_number_begins ON public.assembly USING btree (lower(number) COLLATE "C");
CREATE INDEX assembly_part_component ON public.assembly_part USING btree (component_id);
CREATE INDEX assembly_search ON public.assembly USING gin (search public.gin_trgm_ops);
CREATE INDEX component_kind ON public.component USING btree (kind);
CREATE INDEX component_number_begins ON public.component USING btree (lower(number) COLLATE "C");
CREATE INDEX component_search ON public.component USING gin (search public.gin_trgm_ops);
CREATE INDEX component_short ON public.component USING btree (id) WHERE (stock < minimum);
CREATE INDEX fork_capture_fork ON public.fork_capture USING btree (machine_id, fork, id DESC);
CREATE INDEX ledger_assembly ON public.ledger USING btree (assembly_id, id);
CREATE INDEX ledger_at ON public.ledger USING btree (at);
CREATE INDEX ledger_component ON public.ledger USING btree (component_id, id) WHERE (component_id IS NOT NULL);
CREATE INDEX ledger_counter ON public.ledger USING btree (counter_id, id) WHERE (counter_id IS NOT NULL);
CREATE INDEX ledger_machine ON public.ledger USING btree (machine_id, id);
CREATE INDEX ledger_measured ON public.ledger USING btree (assembly_id, machine_id, id) WHERE ((kind = 'register'::text) AND (stage = 'measured'::text));
CREATE INDEX ledger_person ON public.ledger USING btree (person_id, id);
CREATE INDEX ledger_place ON public.ledger USING btree (place_id, id) WHERE (place_id IS NOT NULL);
CREATE INDEX ledger_proposal ON public.ledger USING btree (proposal_id, id) WHERE (proposal_id IS NOT NULL);
CREATE INDEX ledger_register ON public.ledger USING btree (register_id, id) WHERE (register_id IS NOT NULL);
CREATE INDEX load_tick_plan ON public.load_tick USING btree (plan_id, id);
CREATE INDEX once_at ON public.once USING btree (at);
CREATE UNIQUE INDEX one_open_load_plan_on_a_machine ON public.load_plan USING btree (machine_id) WHERE (closed_at IS NULL);
CREATE UNIQUE INDEX one_open_renewal_of_an_assembly ON public.renewal USING btree (assembly_id) WHERE (finished_at IS NULL);
CREATE UNIQUE INDEX one_running_job_on_a_machine ON public.job USING btree (machine_id) WHERE (state = 'running'::text);
CREATE UNIQUE INDEX one_tied_pocket_for_a_tool ON public.place USING btree (machine_id, tied_tool) WHERE (tied_tool IS NOT NULL);
CREATE INDEX presetting_assembly ON public.presetting USING btree (assembly_id, id DESC);
CREATE INDEX program_call_tool ON public.program_call USING btree (tool);
CREATE INDEX reading_feature ON public.reading USING btree (feature_id, id DESC);
CREATE INDEX session_expiry ON public.session USING btree (expires_at);
CREATE INDEX sign_in_attempt_address ON public.sign_in_attempt USING btree (address, at);
CREATE INDEX sign_in_attempt_badge ON public.sign_in_attempt USING btree (badge, at);
CREATE INDEX sign_in_attempt_tablet ON public.sign_in_attempt USING btree (badge, tablet) WHERE (good AND (tablet IS NOT NULL));
CREATE OR REPLACE VIEW public.ledger_disagreement AS
 SELECT 'register'::text AS kind,
    r.id,
    r.value,
    (COALESCE(sum(l.change_value), (0)::numeric))::bigint AS summed
   FROM (public.register r
     LEFT JOIN public.ledger l ON (((l.register_id = r.id) AND (l.kind = 'register'::text))))
  GROUP BY r.id
 HAVING ((r.value)::numeric <> COALESCE(sum(l.change_value), (0)::numeric))
UNION ALL
 SELECT 'life'::text AS kind,
    c.id,
    c.value,
    (COALESCE(sum(l.change_value), (0)::numeric))::bigint AS summed
   FROM (public.life_counter c
     LEFT JOIN public.ledger l ON (((l.counter_id = c.id) AND (l.kind = 'life'::text))))
  GROUP BY c.id
 HAVING ((c.value)::numeric <> COALESCE(sum(l.change_value), (0)::numeric))
UNION ALL
 SELECT 'stock'::text AS kind,
    c.id,
    (c.stock)::bigint AS value,
    (COALESCE(sum(l.change_value), (0)::numeric))::bigint AS summed
   FROM (public.component c
     LEFT JOIN public.ledger l ON (((l.component_id = c.id) AND (l.kind = 'stock'::text))))
  GROUP BY c.id
 HAVING ((c.stock)::numeric <> COALESCE(sum(l.change_value), (0)::numeric));
CREATE TRIGGER ledger_apply BEFORE INSERT ON public.ledger FOR EACH ROW EXECUTE FUNCTION public.ledger_apply();
CREATE TRIGGER ledger_is_append_only BEFORE DELETE OR UPDATE OR TRUNCATE ON public.ledger FOR EACH STATEMENT EXECUTE FUNCTION public.ledger_is_append_only();
CREATE TRIGGER ledger_magazine BEFORE INSERT ON public.ledger FOR EACH ROW EXECUTE FUNCTION public.ledger_magazine();
CREATE TRIGGER ledger_order BEFORE INSERT ON public.ledger FOR EACH ROW EXECUTE FUNCTION public.ledger_order();
CREATE TRIGGER ledger_stock BEFORE INSERT ON public.ledger FOR EACH ROW EXECUTE FUNCTION public.ledger_stock();
CREATE TRIGGER ledger_tell AFTER INSERT ON public.ledger FOR EACH ROW EXECUTE FUNCTION public.ledger_tell();
CREATE TRIGGER magazine_rules AFTER UPDATE ON public.place FOR EACH ROW EXECUTE FUNCTION public.magazine_rules();
CREATE TRIGGER magazine_rules AFTER INSERT OR UPDATE ON public.placement FOR EACH ROW EXECUTE FUNCTION public.magazine_rules();
CREATE TRIGGER next_in_order BEFORE INSERT ON public.presetting FOR EACH ROW EXECUTE FUNCTION public.next_in_order();
CREATE TRIGGER next_in_order BEFORE INSERT ON public.reading FOR EACH ROW EXECUTE FUNCTION public.next_in_order();
CREATE TRIGGER plate_rules AFTER UPDATE OF highest_tool ON public.machine FOR EACH ROW EXECUTE FUNCTION public.plate_rules();
CREATE TRIGGER plate_rules AFTER UPDATE OF cell ON public.place FOR EACH ROW EXECUTE FUNCTION public.plate_rules();
CREATE TRIGGER plate_rules AFTER INSERT OR UPDATE ON public.placement FOR EACH ROW EXECUTE FUNCTION public.plate_rules();
ALTER TABLE ONLY public.assembly_part
    ADD CONSTRAINT assembly_part_assembly_id_fkey FOREIGN KEY (assembly_id) REFERENCES public.assembly(id);
ALTER TABLE ONLY public.assembly_part
    ADD CONSTRAINT assembly_part_component_id_fkey FOREIGN KEY (component_id) REFERENCES public.component(id);
ALTER TABLE ONLY public.component
    ADD CONSTRAINT component_merged_into_fkey FOREIGN KEY (merged_into) REFERENCES public.component(id);
ALTER TABLE ONLY public.component
    ADD CONSTRAINT component_reground_from_fkey FOREIGN KEY (reground_from) REFERENCES public.component(id);
ALTER TABLE ONLY public.definition
    ADD CONSTRAINT definition_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.definition
    ADD CONSTRAINT definition_written_by_fkey FOREIGN KEY (written_by) REFERENCES public.person(id);
ALTER TABLE ONLY public.feature
    ADD CONSTRAINT feature_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.fork_capture
    ADD CONSTRAINT fork_capture_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.fork_capture
    ADD CONSTRAINT fork_capture_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.import_draft
    ADD CONSTRAINT import_draft_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_program_id_fkey FOREIGN KEY (program_id) REFERENCES public.program(id);
ALTER TABLE ONLY public.leaf_answer
    ADD CONSTRAINT leaf_answer_note_id_fkey FOREIGN KEY (note_id) REFERENCES public.leaf_note(id);
ALTER TABLE ONLY public.leaf_answer
    ADD CONSTRAINT leaf_answer_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.leaf_note
    ADD CONSTRAINT leaf_note_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.leaf_note
    ADD CONSTRAINT leaf_note_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.leaf_signature
    ADD CONSTRAINT leaf_signature_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_assembly_id_fkey FOREIGN KEY (assembly_id) REFERENCES public.assembly(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_component_id_fkey FOREIGN KEY (component_id) REFERENCES public.component(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_counter_id_fkey FOREIGN KEY (counter_id) REFERENCES public.life_counter(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_place_id_fkey FOREIGN KEY (place_id) REFERENCES public.place(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_program_id_fkey FOREIGN KEY (program_id) REFERENCES public.program(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_proposal_id_fkey FOREIGN KEY (proposal_id) REFERENCES public.proposal(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_reading_id_fkey FOREIGN KEY (reading_id) REFERENCES public.reading(id);
ALTER TABLE ONLY public.ledger
    ADD CONSTRAINT ledger_register_id_fkey FOREIGN KEY (register_id) REFERENCES public.register(id);
ALTER TABLE ONLY public.life_counter
    ADD CONSTRAINT life_counter_assembly_id_fkey FOREIGN KEY (assembly_id) REFERENCES public.assembly(id);
ALTER TABLE ONLY public.load_plan
    ADD CONSTRAINT load_plan_closed_by_fkey FOREIGN KEY (closed_by) REFERENCES public.person(id);
ALTER TABLE ONLY public.load_plan
    ADD CONSTRAINT load_plan_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.load_plan
    ADD CONSTRAINT load_plan_made_by_fkey FOREIGN KEY (made_by) REFERENCES public.person(id);
ALTER TABLE ONLY public.load_tick
    ADD CONSTRAINT load_tick_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.load_tick
    ADD CONSTRAINT load_tick_plan_id_fkey FOREIGN KEY (plan_id) REFERENCES public.load_plan(id);
ALTER TABLE ONLY public.once
    ADD CONSTRAINT once_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.place
    ADD CONSTRAINT place_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.placement
    ADD CONSTRAINT placement_assembly_id_fkey FOREIGN KEY (assembly_id) REFERENCES public.assembly(id);
ALTER TABLE ONLY public.placement
    ADD CONSTRAINT placement_place_id_machine_id_fkey FOREIGN KEY (place_id, machine_id) REFERENCES public.place(id, machine_id);
ALTER TABLE ONLY public.presetting
    ADD CONSTRAINT presetting_assembly_id_fkey FOREIGN KEY (assembly_id) REFERENCES public.assembly(id);
ALTER TABLE ONLY public.presetting
    ADD CONSTRAINT presetting_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.program
    ADD CONSTRAINT program_brought_in_by_fkey FOREIGN KEY (brought_in_by) REFERENCES public.person(id);
ALTER TABLE ONLY public.program_call
    ADD CONSTRAINT program_call_program_id_fkey FOREIGN KEY (program_id) REFERENCES public.program(id);
ALTER TABLE ONLY public.program
    ADD CONSTRAINT program_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.proposal
    ADD CONSTRAINT proposal_feature_id_fkey FOREIGN KEY (feature_id) REFERENCES public.feature(id);
ALTER TABLE ONLY public.proposal
    ADD CONSTRAINT proposal_reading_id_fkey FOREIGN KEY (reading_id) REFERENCES public.reading(id);
ALTER TABLE ONLY public.proposal
    ADD CONSTRAINT proposal_register_id_fkey FOREIGN KEY (register_id) REFERENCES public.register(id);
ALTER TABLE ONLY public.rack_confirmation
    ADD CONSTRAINT rack_confirmation_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.rack_confirmation
    ADD CONSTRAINT rack_confirmation_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.rack_setting
    ADD CONSTRAINT rack_setting_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.reading
    ADD CONSTRAINT reading_feature_id_fkey FOREIGN KEY (feature_id) REFERENCES public.feature(id);
ALTER TABLE ONLY public.reading
    ADD CONSTRAINT reading_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);
ALTER TABLE ONLY public.reading
    ADD CONSTRAINT reading_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.reading
    ADD CONSTRAINT reading_program_id_fkey FOREIGN KEY (program_id) REFERENCES public.program(id);
ALTER TABLE ONLY public.register
    ADD CONSTRAINT register_machine_id_fkey FOREIGN KEY (machine_id) REFERENCES public.machine(id);
ALTER TABLE ONLY public.renewal
    ADD CONSTRAINT renewal_assembly_id_fkey FOREIGN KEY (assembly_id) REFERENCES public.assembly(id);
ALTER TABLE ONLY public.renewal
    ADD CONSTRAINT renewal_started_by_fkey FOREIGN KEY (started_by) REFERENCES public.person(id);
ALTER TABLE ONLY public.renewal_step
    ADD CONSTRAINT renewal_step_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
ALTER TABLE ONLY public.renewal_step
    ADD CONSTRAINT renewal_step_renewal_id_fkey FOREIGN KEY (renewal_id) REFERENCES public.renewal(id);
ALTER TABLE ONLY public.session
    ADD CONSTRAINT session_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.person(id);
GRANT USAGE ON SCHEMA public TO tin_app;
GRANT SELECT ON TABLE public.assembly TO tin_app;
GRANT INSERT(number),UPDATE(number) ON TABLE public.assembly TO tin_app;
GRANT INSERT(name),UPDATE(name) ON TABLE public.assembly TO tin_app;
GRANT INSERT(kind),UPDATE(kind) ON TABLE public.assembly TO tin_app;
GRANT INSERT(interface),UPDATE(interface) ON TABLE public.assembly TO tin_app;
GRANT INSERT(holder),UPDATE(holder) ON TABLE public.assembly TO tin_app;
GRANT INSERT(diameter),UPDATE(diameter) ON TABLE public.assembly TO tin_app;
GRANT INSERT(corner_radius),UPDATE(corner_radius) ON TABLE public.assembly TO tin_app;
GRANT INSERT(stick_out),UPDATE(stick_out) ON TABLE public.assembly TO tin_app;
GRANT INSERT(gauge_length),UPDATE(gauge_length) ON TABLE public.assembly TO tin_app;
GRANT INSERT(holder_diameter),UPDATE(holder_diameter) ON TABLE public.assembly TO tin_app;
GRANT INSERT(teeth),UPDATE(teeth) ON TABLE public.assembly TO tin_app;
GRANT INSERT(outline),UPDATE(outline) ON TABLE public.assembly TO tin_app;
GRANT INSERT(widest),UPDATE(widest) ON TABLE public.assembly TO tin_app;
GRANT INSERT(mass),UPDATE(mass) ON TABLE public.assembly TO tin_app;
GRANT INSERT(moment),UPDATE(moment) ON TABLE public.assembly TO tin_app;
GRANT INSERT(speed_limit),UPDATE(speed_limit) ON TABLE public.assembly TO tin_app;
GRANT INSERT(override) ON TABLE public.assembly TO tin_app;
GRANT INSERT(seats),UPDATE(seats) ON TABLE public.assembly TO tin_app;
GRANT SELECT,INSERT ON TABLE public.assembly_part TO tin_app;
GRANT UPDATE(component_id) ON TABLE public.assembly_part TO tin_app;
GRANT UPDATE(edges_used) ON TABLE public.assembly_part TO tin_app;
GRANT SELECT,INSERT ON TABLE public.cell TO tin_app;
GRANT UPDATE(name) ON TABLE public.cell TO tin_app;
GRANT UPDATE(time_zone) ON TABLE public.cell TO tin_app;
GRANT SELECT ON TABLE public.component TO tin_app;
GRANT INSERT(number) ON TABLE public.component TO tin_app;
GRANT INSERT(name),UPDATE(name) ON TABLE public.component TO tin_app;
GRANT INSERT(kind) ON TABLE public.component TO tin_app;
GRANT INSERT(dimensions),UPDATE(dimensions) ON TABLE public.component TO tin_app;
GRANT INSERT(interface) ON TABLE public.component TO tin_app;
GRANT INSERT(series),UPDATE(series) ON TABLE public.component TO tin_app;
GRANT INSERT(flat),UPDATE(flat) ON TABLE public.component TO tin_app;
GRANT INSERT(coolant),UPDATE(coolant) ON TABLE public.component TO tin_app;
GRANT INSERT(material),UPDATE(material) ON TABLE public.component TO tin_app;
GRANT INSERT(torque),UPDATE(torque) ON TABLE public.component TO tin_app;
GRANT INSERT(cost_cents),UPDATE(cost_cents) ON TABLE public.component TO tin_app;
GRANT INSERT(edges),UPDATE(edges) ON TABLE public.component TO tin_app;
GRANT INSERT(regrinds),UPDATE(regrinds) ON TABLE public.component TO tin_app;
GRANT INSERT(shelf),UPDATE(shelf) ON TABLE public.component TO tin_app;
GRANT INSERT(minimum),UPDATE(minimum) ON TABLE public.component TO tin_app;
GRANT INSERT(reground_from) ON TABLE public.component TO tin_app;
GRANT UPDATE(merged_into) ON TABLE public.component TO tin_app;
GRANT SELECT,INSERT ON TABLE public.definition TO tin_app;
GRANT UPDATE(kind) ON TABLE public.definition TO tin_app;
GRANT UPDATE(diameter) ON TABLE public.definition TO tin_app;
GRANT UPDATE(corner_radius) ON TABLE public.definition TO tin_app;
GRANT UPDATE(reach) ON TABLE public.definition TO tin_app;
GRANT UPDATE(teeth) ON TABLE public.definition TO tin_app;
GRANT UPDATE(thread) ON TABLE public.definition TO tin_app;
GRANT UPDATE(least_life) ON TABLE public.definition TO tin_app;
GRANT UPDATE(written_by) ON TABLE public.definition TO tin_app;
GRANT SELECT,INSERT ON TABLE public.feature TO tin_app;
GRANT UPDATE(kind) ON TABLE public.feature TO tin_app;
GRANT UPDATE(nominal) ON TABLE public.feature TO tin_app;
GRANT UPDATE(upper) ON TABLE public.feature TO tin_app;
GRANT UPDATE(lower) ON TABLE public.feature TO tin_app;
GRANT UPDATE(target) ON TABLE public.feature TO tin_app;
GRANT UPDATE(tool) ON TABLE public.feature TO tin_app;
GRANT UPDATE("row") ON TABLE public.feature TO tin_app;
GRANT UPDATE(policy) ON TABLE public.feature TO tin_app;
GRANT UPDATE(dead_band) ON TABLE public.feature TO tin_app;
GRANT UPDATE(average_of) ON TABLE public.feature TO tin_app;
GRANT UPDATE(operator_limit) ON TABLE public.feature TO tin_app;
GRANT UPDATE(gauge) ON TABLE public.feature TO tin_app;
GRANT SELECT,INSERT ON TABLE public.fork_capture TO tin_app;
GRANT SELECT,INSERT,DELETE ON TABLE public.import_draft TO tin_app;
GRANT UPDATE(content) ON TABLE public.import_draft TO tin_app;
GRANT UPDATE(state) ON TABLE public.import_draft TO tin_app;
GRANT UPDATE(rows_done) ON TABLE public.import_draft TO tin_app;
GRANT UPDATE(answer) ON TABLE public.import_draft TO tin_app;
GRANT UPDATE(touched_at) ON TABLE public.import_draft TO tin_app;
GRANT SELECT ON TABLE public.job TO tin_app;
GRANT INSERT(machine_id) ON TABLE public.job TO tin_app;
GRANT INSERT(program_id) ON TABLE public.job TO tin_app;
GRANT INSERT(quantity),UPDATE(quantity) ON TABLE public.job TO tin_app;
GRANT INSERT(cycle_milliseconds),UPDATE(cycle_milliseconds) ON TABLE public.job TO tin_app;
GRANT INSERT(state),UPDATE(state) ON TABLE public.job TO tin_app;
GRANT INSERT(set_up_at),UPDATE(set_up_at) ON TABLE public.job TO tin_app;
GRANT SELECT,INSERT ON TABLE public.leaf_answer TO tin_app;
GRANT SELECT,INSERT ON TABLE public.leaf_note TO tin_app;
GRANT SELECT,INSERT ON TABLE public.leaf_signature TO tin_app;
GRANT SELECT,INSERT ON TABLE public.ledger TO tin_app;
GRANT SELECT ON TABLE public.ledger_disagreement TO tin_app;
GRANT SELECT ON TABLE public.life_counter TO tin_app;
GRANT INSERT(assembly_id) ON TABLE public.life_counter TO tin_app;
GRANT INSERT(basis),UPDATE(basis) ON TABLE public.life_counter TO tin_app;
GRANT INSERT(full_life),UPDATE(full_life) ON TABLE public.life_counter TO tin_app;
GRANT SELECT,INSERT ON TABLE public.load_plan TO tin_app;
GRANT UPDATE(wanted) ON TABLE public.load_plan TO tin_app;
GRANT UPDATE(closed_by) ON TABLE public.load_plan TO tin_app;
GRANT UPDATE(closed_at) ON TABLE public.load_plan TO tin_app;
GRANT UPDATE(outcome) ON TABLE public.load_plan TO tin_app;
GRANT SELECT,INSERT ON TABLE public.load_tick TO tin_app;
GRANT SELECT,INSERT ON TABLE public.machine TO tin_app;
GRANT UPDATE(words) ON TABLE public.machine TO tin_app;
GRANT UPDATE(highest_tool) ON TABLE public.machine TO tin_app;
GRANT UPDATE(highest_speed) ON TABLE public.machine TO tin_app;
GRANT UPDATE(length_school) ON TABLE public.machine TO tin_app;
GRANT UPDATE(plane_constant) ON TABLE public.machine TO tin_app;
GRANT UPDATE(master_length) ON TABLE public.machine TO tin_app;
GRANT UPDATE(x_reckoning) ON TABLE public.machine TO tin_app;
GRANT UPDATE(cutter_reckoning) ON TABLE public.machine TO tin_app;
GRANT UPDATE(increment) ON TABLE public.machine TO tin_app;
GRANT UPDATE(wear_limit) ON TABLE public.machine TO tin_app;
GRANT UPDATE(expiry) ON TABLE public.machine TO tin_app;
GRANT UPDATE(dialect) ON TABLE public.machine TO tin_app;
GRANT UPDATE(control_address) ON TABLE public.machine TO tin_app;
GRANT UPDATE(longest) ON TABLE public.machine TO tin_app;
GRANT UPDATE(widest) ON TABLE public.machine TO tin_app;
GRANT UPDATE(widest_alone) ON TABLE public.machine TO tin_app;
GRANT UPDATE(heaviest) ON TABLE public.machine TO tin_app;
GRANT UPDATE(moment) ON TABLE public.machine TO tin_app;
GRANT UPDATE(knob) ON TABLE public.machine TO tin_app;
GRANT UPDATE(through_coolant) ON TABLE public.machine TO tin_app;
GRANT UPDATE(arm_seconds) ON TABLE public.machine TO tin_app;
GRANT UPDATE(pocket_seconds) ON TABLE public.machine TO tin_app;
GRANT UPDATE(heavy_factor) ON TABLE public.machine TO tin_app;
GRANT UPDATE(heaviest_all) ON TABLE public.machine TO tin_app;
GRANT UPDATE(unbalance) ON TABLE public.machine TO tin_app;
GRANT UPDATE(swing) ON TABLE public.machine TO tin_app;
GRANT SELECT ON TABLE public.migration TO tin_app;
GRANT SELECT,INSERT,DELETE ON TABLE public.once TO tin_app;
GRANT UPDATE(answer) ON TABLE public.once TO tin_app;
GRANT SELECT,INSERT ON TABLE public.person TO tin_app;
GRANT UPDATE(name) ON TABLE public.person TO tin_app;
GRANT UPDATE(role) ON TABLE public.person TO tin_app;
GRANT UPDATE(pin_hash) ON TABLE public.person TO tin_app;
GRANT UPDATE(active) ON TABLE public.person TO tin_app;
GRANT SELECT,INSERT ON TABLE public.place TO tin_app;
GRANT UPDATE(cell) ON TABLE public.place TO tin_app;
GRANT SELECT ON TABLE public.placement TO tin_app;
GRANT SELECT,INSERT ON TABLE public.presetting TO tin_app;
GRANT SELECT,INSERT ON TABLE public.program TO tin_app;
GRANT UPDATE(parts_per_cycle) ON TABLE public.program TO tin_app;
GRANT UPDATE(cutter_by) ON TABLE public.program TO tin_app;
GRANT SELECT,INSERT ON TABLE public.program_call TO tin_app;
GRANT SELECT,INSERT ON TABLE public.proposal TO tin_app;
GRANT SELECT ON TABLE public.proposal_state TO tin_app;
GRANT SELECT,INSERT,DELETE ON TABLE public.rack_confirmation TO tin_app;
GRANT SELECT,INSERT,UPDATE ON TABLE public.rack_setting TO tin_app;
GRANT SELECT,INSERT ON TABLE public.reading TO tin_app;
GRANT SELECT ON TABLE public.register TO tin_app;
GRANT INSERT(machine_id) ON TABLE public.register TO tin_app;
GRANT INSERT("row") ON TABLE public.register TO tin_app;
GRANT INSERT(kind) ON TABLE public.register TO tin_app;
GRANT SELECT,INSERT ON TABLE public.renewal TO tin_app;
GRANT UPDATE(finished_at) ON TABLE public.renewal TO tin_app;
GRANT SELECT,INSERT ON TABLE public.renewal_step TO tin_app;
GRANT SELECT,INSERT,DELETE ON TABLE public.session TO tin_app;
GRANT UPDATE(seen_at) ON TABLE public.session TO tin_app;
GRANT UPDATE(expires_at) ON TABLE public.session TO tin_app;
GRANT SELECT,INSERT,UPDATE ON TABLE public.shift_pattern TO tin_app;
GRANT SELECT,INSERT,DELETE ON TABLE public.sign_in_attempt TO tin_app;
GRANT UPDATE(good) ON TABLE public.sign_in_attempt TO tin_app;
