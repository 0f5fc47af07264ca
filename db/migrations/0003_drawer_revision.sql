-- Up Migration
-- One row: how often the drawer has changed, so that a change made from an older state is noticed.
CREATE TABLE drawer_state (
  single boolean PRIMARY KEY DEFAULT true CHECK (single),
  revision integer NOT NULL DEFAULT 0 CHECK (revision >= 0)
);
INSERT INTO drawer_state DEFAULT VALUES;
