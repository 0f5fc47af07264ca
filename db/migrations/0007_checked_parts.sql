-- Up Migration
-- By which core a part was checked, and what of it: a row that still is what it was need not be checked again.
ALTER TABLE parts ADD COLUMN checked text;
