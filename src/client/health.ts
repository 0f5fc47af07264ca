import * as z from '@/core/zod';

const healthSchema = z.object({ trouble: z.string().nullable() });

/** What keeps the server from its work, in words; null where nothing does. */
export async function fetchTrouble(): Promise<string | null> {
  try {
    const read = healthSchema.safeParse(await (await fetch('/api/health')).json());
    return read.success ? read.data.trouble : 'the server had trouble of its own';
  } catch {
    return 'the server cannot be reached';
  }
}
