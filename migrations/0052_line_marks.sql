-- Up Migration
-- Where every five-thousandth line of a program begins, in characters from 0: a page fetches the lines that it shows, not a text of 100 MB.
ALTER TABLE program ADD COLUMN line_marks integer[];
GRANT INSERT (line_marks), UPDATE (line_marks) ON program TO tin_app;
