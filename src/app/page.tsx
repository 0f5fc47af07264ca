import { readShelfQuery } from '@/core/predict/shelf-query';
import { Shelf } from '@/screens/shelf/shelf';
import { readShelf } from '@/server/shelf';

export const dynamic = 'force-dynamic';

type Props = { searchParams: Promise<Record<string, string | string[] | undefined>> };

export default async function ShelfPage({ searchParams }: Props) {
  const query = readShelfQuery(await searchParams);
  return <Shelf query={query} page={JSON.stringify(await readShelf(query))} />;
}
