-- Up Migration
-- Few entries among all changed a measuring plan, and few lines of a catalogue were reground or merged: each found without reading the rest.
CREATE INDEX ledger_plan ON ledger (program_id, id) WHERE kind = 'program' AND stage = 'plan';
CREATE INDEX component_reground ON component (reground_from) WHERE reground_from IS NOT NULL;
CREATE INDEX component_merged ON component (merged_into) WHERE merged_into IS NOT NULL;
-- What people did to a tool stands between thousands of counts that used it.
CREATE INDEX ledger_told ON ledger (assembly_id, id) WHERE assembly_id IS NOT NULL AND NOT (kind = 'life' AND stage IN ('used', 'given back'));
