-- Up Migration
-- Readings taken at the bench. A reading is never changed: one that puts it right stands beside it.
CREATE TABLE bench_sessions (
  id uuid PRIMARY KEY,
  design_id uuid NOT NULL REFERENCES designs (id) ON DELETE CASCADE,
  revision integer NOT NULL,
  started_at timestamptz NOT NULL,
  record jsonb NOT NULL
);
CREATE INDEX bench_sessions_by_design ON bench_sessions (design_id, started_at DESC);

CREATE TABLE bench_readings (
  id uuid PRIMARY KEY,
  session_id uuid NOT NULL REFERENCES bench_sessions (id) ON DELETE CASCADE,
  taken_at timestamptz NOT NULL,
  record jsonb NOT NULL
);
CREATE INDEX bench_readings_by_session ON bench_readings (session_id, taken_at);
