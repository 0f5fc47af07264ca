-- Up Migration
-- Designs made dead at the bench: the steps of the plan as they stood, when each was done and what was read.
CREATE TABLE discharges (
  id uuid PRIMARY KEY,
  design_id uuid NOT NULL REFERENCES designs (id) ON DELETE CASCADE,
  revision integer NOT NULL,
  started_at timestamptz NOT NULL,
  finished_at timestamptz,
  record jsonb NOT NULL
);
CREATE INDEX discharges_by_design ON discharges (design_id, started_at DESC);
