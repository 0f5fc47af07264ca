-- Up Migration
-- Parts one owns or can buy; what decides differs by kind and is checked by the application's schema.
CREATE TABLE parts (
  id uuid PRIMARY KEY,
  kind text NOT NULL,
  name text NOT NULL,
  count integer NOT NULL CHECK (count >= 0),
  price numeric CHECK (price >= 0),
  note text NOT NULL,
  fields jsonb NOT NULL,
  changed_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX parts_by_kind ON parts (kind, name);
