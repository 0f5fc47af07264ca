import { shelfRow } from '@/core/predict/shelf-row';
import { Shelf } from '@/screens/shelf/shelf';
import { listDesigns } from '@/server/designs';

export const dynamic = 'force-dynamic';

export default async function ShelfPage() {
  const designs = await listDesigns();
  return (
    <Shelf
      designs={designs.map(({ id, design, savedAt, archivedAt }) => ({
        id,
        design,
        savedAt,
        archived: archivedAt !== null,
        ...shelfRow(design),
      }))}
    />
  );
}
