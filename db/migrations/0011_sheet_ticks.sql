-- Up Migration
-- Steps of a design's build sheet that were done, by the revision that was built from.
CREATE TABLE sheet_ticks (
  design_id uuid NOT NULL REFERENCES designs (id) ON DELETE CASCADE,
  revision integer NOT NULL,
  step text NOT NULL,
  done_at timestamptz NOT NULL,
  PRIMARY KEY (design_id, revision, step)
);
