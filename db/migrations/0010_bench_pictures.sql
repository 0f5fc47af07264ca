-- Up Migration
-- Pictures taken at the bench, as they are shown: nothing else that a file says is kept.
CREATE TABLE bench_pictures (
  id uuid PRIMARY KEY,
  design_id uuid NOT NULL REFERENCES designs (id) ON DELETE CASCADE,
  kept_at timestamptz NOT NULL DEFAULT now(),
  jpeg bytea NOT NULL
);
CREATE INDEX bench_pictures_by_design ON bench_pictures (design_id);
