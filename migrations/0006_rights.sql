-- Up Migration
-- What the application may do. What is recorded is added to and never changed or removed.
GRANT USAGE ON SCHEMA public TO tin_app;
GRANT SELECT ON ALL TABLES IN SCHEMA public TO tin_app;

GRANT INSERT ON ledger, reading, proposal, program, program_call, leaf_note, leaf_answer, leaf_signature,
  renewal_step, sign_in_attempt TO tin_app;
GRANT INSERT ON cell, shift_pattern, machine, place, once, person, session, feature, renewal TO tin_app;
-- What the ledger sums up starts at nothing: only an entry moves it.
GRANT INSERT (number, name, kind, interface, holder, diameter, corner_radius, stick_out, gauge_length, holder_diameter, teeth)
  ON assembly TO tin_app;
GRANT INSERT (assembly_id, basis, full_life) ON life_counter TO tin_app;
GRANT INSERT (machine_id, row, kind) ON register TO tin_app;
GRANT INSERT (machine_id, program_id, quantity, cycle_milliseconds, state, set_up_at) ON job TO tin_app;

GRANT UPDATE (name, role, pin_hash, active) ON person TO tin_app;
GRANT UPDATE (seen_at, expires_at) ON session TO tin_app;
GRANT DELETE ON session, sign_in_attempt, once TO tin_app;
GRANT UPDATE (name, time_zone) ON cell TO tin_app;
GRANT UPDATE ON shift_pattern TO tin_app;
GRANT UPDATE (words, highest_speed, length_school, plane_constant, master_length, x_reckoning, cutter_reckoning,
  increment, wear_limit, expiry, dialect, control_address) ON machine TO tin_app;
GRANT UPDATE (in_service, reserved) ON place TO tin_app;
GRANT UPDATE (gauge_length, diameter) ON assembly TO tin_app;
GRANT UPDATE (basis, full_life) ON life_counter TO tin_app;
GRANT UPDATE (parts_per_cycle) ON program TO tin_app;
GRANT UPDATE (kind, nominal, upper, lower, target, tool, row, policy, dead_band, average_of, operator_limit, gauge)
  ON feature TO tin_app;
GRANT UPDATE (quantity, cycle_milliseconds, state, set_up_at) ON job TO tin_app;
GRANT UPDATE (finished_at) ON renewal TO tin_app;
GRANT UPDATE (answer) ON once TO tin_app;
