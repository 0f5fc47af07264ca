-- Up Migration
-- What lists seek, sort and count by, beside the documents: those are long, and stand apart from their rows.
ALTER TABLE designs
  ADD COLUMN name text GENERATED ALWAYS AS (document->>'name') STORED,
  ADD COLUMN sought text GENERATED ALWAYS AS (
    lower(
      coalesce(document->>'name', '') || ' ' || coalesce(shelf->>'words', '') || ' ' || coalesce(document->>'notes', '')
    )
  ) STORED,
  ADD COLUMN target_volts float8 GENERATED ALWAYS AS (
    CASE jsonb_typeof(shelf->'row'->'targetVolts') WHEN 'number' THEN (shelf->'row'->>'targetVolts')::float8 END
  ) STORED,
  ADD COLUMN reached_volts float8 GENERATED ALWAYS AS (
    CASE jsonb_typeof(shelf->'row'->'reachedVolts') WHEN 'number' THEN (shelf->'row'->>'reachedVolts')::float8 END
  ) STORED,
  ADD COLUMN smallest_margin float8 GENERATED ALWAYS AS (
    CASE jsonb_typeof(shelf->'row'->'smallestMargin') WHEN 'number' THEN (shelf->'row'->>'smallestMargin')::float8 END
  ) STORED,
  ADD COLUMN uses jsonb GENERATED ALWAYS AS (shelf->'uses') STORED;
