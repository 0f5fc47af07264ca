-- Up Migration
-- What the shelf shows of a design, computed when it is saved, by which core, and of which document.
ALTER TABLE designs
  ADD COLUMN shelf jsonb,
  ADD COLUMN shelf_core text,
  ADD COLUMN shelf_of integer;

-- A document changed in any other way leaves figures that are to be computed anew.
CREATE FUNCTION forget_shelf_figures() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.document IS DISTINCT FROM OLD.document AND NEW.shelf_of IS NOT DISTINCT FROM OLD.shelf_of THEN
    NEW.shelf_core := NULL;
  END IF;
  RETURN NEW;
END $$;
CREATE TRIGGER forget_shelf_figures BEFORE UPDATE OF document ON designs
  FOR EACH ROW EXECUTE FUNCTION forget_shelf_figures();

-- "Stage 2" before "Stage 10".
CREATE COLLATION natural_order (provider = icu, locale = 'en-u-kn-true');
CREATE INDEX designs_by_save ON designs (saved_at DESC, id);
