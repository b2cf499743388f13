-- Up Migration
-- Which way round a tool cuts: on its catalogue line, on the piece, and in what a program asks for (null: it does not say).
ALTER TABLE component ADD COLUMN left_hand boolean NOT NULL DEFAULT false;
ALTER TABLE assembly ADD COLUMN left_hand boolean NOT NULL DEFAULT false;
ALTER TABLE definition ADD COLUMN left_hand boolean;

-- so far its name alone said it
UPDATE component SET left_hand = true WHERE name ~* '\m(l\.?h|left[- ]?hand(ed)?)\M';
UPDATE assembly SET left_hand = true WHERE name ~* '\m(l\.?h|left[- ]?hand(ed)?)\M';

-- coolant through the spindle: the usual code, where a machine has the pump; its manual decides, and the profile is edited
UPDATE machine SET dialect = dialect || '{"throughCodes": ["M88"]}' WHERE kind = 'mill' AND through_coolant;

GRANT INSERT (left_hand), UPDATE (left_hand) ON component TO tin_app;
GRANT INSERT (left_hand), UPDATE (left_hand) ON assembly TO tin_app;
GRANT INSERT (left_hand), UPDATE (left_hand) ON definition TO tin_app;
