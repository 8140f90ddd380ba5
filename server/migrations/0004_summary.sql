-- What the list shows of a machine is worked out when the list is opened, by the rules of the program that shows it.
ALTER TABLE machine DROP COLUMN parts;
ALTER TABLE machine DROP COLUMN main_v;
ALTER TABLE machine DROP COLUMN worst_a;
ALTER TABLE machine DROP COLUMN stops;
ALTER TABLE machine DROP COLUMN fixes;
ALTER TABLE machine DROP COLUMN watches;
ALTER TABLE machine DROP COLUMN asks;
