import { faultSchema, formatFaults, type Fault } from '@/core/schema/faults';
import * as z from '@/core/zod';

/** The server refused; `faults` say why. */
export class Refusal extends Error {
  constructor(readonly faults: Fault[]) {
    super(formatFaults(faults));
  }
}

/** It could not be done now, and may go through later. */
export class Trouble extends Refusal {}

const refusalSchema = z.object({ faults: z.array(faultSchema).min(1) });

export async function call(path: string, init?: RequestInit): Promise<Response> {
  return fetch(path, { ...init, headers: { 'content-type': 'application/json' } });
}

/** What a status without words of its own means to whoever waits for the answer. */
const troubleOf = (status: number): string =>
  status === 503
    ? 'the database cannot be reached'
    : status >= 500
      ? `the server had trouble of its own (${status})`
      : `the server refused it (${status})`;

/** What an answer's body says; null where it cannot be read. */
type Reader<T> = (body: unknown) => Promise<{ data: T } | null>;

/**
 * What the server answered, as the schema for it reads it.
 *
 * @param also a status besides success that carries the same kind of answer
 * @throws Refusal with the server's faults, or with what is wrong with its answer
 */
export function answer<T extends z.ZodType>(
  response: Response,
  schema: T,
  also: number | null = null,
): Promise<z.output<T>> {
  return answerAs(
    response,
    async (body) => {
      const read = schema.safeParse(body);
      return read.success ? read : null;
    },
    also,
  );
}

/** The same with a reader of its own, for what is too long to be read in one go. */
export async function answerAs<T>(response: Response, read: Reader<T>, also: number | null = null): Promise<T> {
  const body: unknown = await response.json().catch(() => null);
  if (response.ok || response.status === also) {
    const told = await read(body);
    if (told) return told.data;
    throw new Refusal([{ path: '$', message: 'the server’s answer cannot be read; reload the page' }]);
  }
  const refused = refusalSchema.safeParse(body);
  // A session that has ended can be opened again in another tab.
  throw new (response.status >= 500 || response.status === 401 ? Trouble : Refusal)(
    refused.success ? refused.data.faults : [{ path: '$', message: troubleOf(response.status) }],
  );
}
