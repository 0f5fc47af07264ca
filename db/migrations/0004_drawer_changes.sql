-- Up Migration
-- Changes of the drawer that went through, so that one sent again, its answer lost, is not made twice.
CREATE TABLE drawer_changes (
  id uuid PRIMARY KEY,
  made_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX drawer_changes_made_at ON drawer_changes (made_at);
