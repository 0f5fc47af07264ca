import { boundsFault, DESIGN_BOUNDS, type Bounds } from '@/core/schema/bounds';
import { faultsOf, type Fault } from '@/core/schema/faults';
import type * as z from '@/core/zod';

/** Enough for any design: a few hundred capacitances and a drawn waveform. */
const MOST_CHARACTERS = 1_000_000;
const A_DESIGN = { mostCharacters: MOST_CHARACTERS, bounds: { ...DESIGN_BOUNDS, depth: DESIGN_BOUNDS.depth + 1 } };
const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

/** Refuses a request with the faults found in it. */
export function refuse(status: number, faults: Fault[]): Response {
  return Response.json({ faults }, { status });
}

export const notFound = () => refuse(404, [{ path: '$', message: 'there is no such design' }]);

/** Whether a path's id can name a design at all. */
export function isId(id: string): boolean {
  return UUID.test(id);
}

/**
 * The body of a request, checked by the schema that guards the form and the
 * file import as well.
 */
export async function readBody<T extends z.ZodType>(
  request: Request,
  schema: T,
  { mostCharacters, bounds }: { mostCharacters: number; bounds: Bounds } = A_DESIGN,
): Promise<{ ok: true; body: z.output<T> } | { ok: false; response: Response }> {
  const text = await request.text();
  if (text.length > mostCharacters) {
    const message = `is longer than ${mostCharacters} characters; must be shorter`;
    return { ok: false, response: refuse(413, [{ path: '$', message }]) };
  }
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    return { ok: false, response: refuse(400, [{ path: '$', message: 'is not JSON; must be one JSON object' }]) };
  }
  const tooMuch = boundsFault(document, bounds);
  if (tooMuch) return { ok: false, response: refuse(422, [tooMuch]) };
  const result = schema.safeParse(document, { reportInput: true });
  return result.success
    ? { ok: true, body: result.data }
    : { ok: false, response: refuse(422, faultsOf(result.error)) };
}
