-- Up Migration
-- Which way the tip of an oriented tool points as it hangs in its machine, by whoever looked; and how far off centre a probe's tip is.
CREATE TABLE tip_look (
  id          integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  assembly_id integer NOT NULL REFERENCES assembly,
  machine_id  integer NOT NULL REFERENCES machine,
  way         text NOT NULL CHECK (way IN ('X+', 'X-', 'Y+', 'Y-')),
  person_id   integer NOT NULL REFERENCES person,
  at          timestamptz NOT NULL DEFAULT tin_now(),
  entry       bigint NOT NULL DEFAULT 0
);
CREATE INDEX tip_look_assembly ON tip_look (assembly_id, id DESC);
CREATE INDEX tip_look_machine ON tip_look (machine_id);
CREATE INDEX tip_look_person ON tip_look (person_id);
CREATE TABLE probe_calibration (
  id          integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  assembly_id integer NOT NULL REFERENCES assembly,
  machine_id  integer NOT NULL REFERENCES machine,
  x           bigint NOT NULL CHECK (abs(x) <= 5000000),
  y           bigint NOT NULL CHECK (abs(y) <= 5000000),
  mark        text NOT NULL CHECK (length(mark) BETWEEN 1 AND 80),
  person_id   integer NOT NULL REFERENCES person,
  at          timestamptz NOT NULL DEFAULT tin_now(),
  entry       bigint NOT NULL DEFAULT 0
);
CREATE INDEX probe_calibration_assembly ON probe_calibration (assembly_id, id DESC);
CREATE INDEX probe_calibration_machine ON probe_calibration (machine_id);
CREATE INDEX probe_calibration_person ON probe_calibration (person_id);
GRANT SELECT, INSERT ON tip_look, probe_calibration TO tin_app;
CREATE TRIGGER next_in_order BEFORE INSERT ON tip_look FOR EACH ROW EXECUTE FUNCTION next_in_order();
CREATE TRIGGER next_in_order BEFORE INSERT ON probe_calibration FOR EACH ROW EXECUTE FUNCTION next_in_order();
INSERT INTO ledger_stage (kind, stage) VALUES ('assembly', 'tipLooked'), ('assembly', 'probeCalibrated');
