-- Up Migration
CREATE TABLE designs (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  document jsonb NOT NULL,
  revision integer NOT NULL DEFAULT 1 CHECK (revision >= 1),
  created_at timestamptz NOT NULL DEFAULT clock_timestamp(),
  saved_at timestamptz NOT NULL DEFAULT clock_timestamp(),
  archived_at timestamptz
);

-- Every state a design was ever saved in; the newest equals the row in designs.
CREATE TABLE design_revisions (
  design_id uuid NOT NULL REFERENCES designs (id) ON DELETE CASCADE,
  revision integer NOT NULL,
  document jsonb NOT NULL,
  saved_at timestamptz NOT NULL DEFAULT clock_timestamp(),
  PRIMARY KEY (design_id, revision)
);

-- One row a fact about this database, such as that the demo data has been loaded.
CREATE TABLE facts (
  name text PRIMARY KEY,
  noted_at timestamptz NOT NULL DEFAULT now()
);
