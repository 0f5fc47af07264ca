import { shelfRow } from '@/core/predict/shelf-row';
import { Shelf } from '@/screens/shelf/shelf';
import { isDamaged, listDesigns } from '@/server/designs';

export const dynamic = 'force-dynamic';

export default async function ShelfPage() {
  const designs = await listDesigns();
  return (
    <Shelf
      designs={designs.map((found) => {
        const row = { id: found.id, savedAt: found.savedAt, archived: found.archivedAt !== null };
        return isDamaged(found)
          ? { ...row, damaged: true, name: found.name, faults: found.faults }
          : { ...row, damaged: false, design: found.design, ...shelfRow(found.design) };
      })}
    />
  );
}
