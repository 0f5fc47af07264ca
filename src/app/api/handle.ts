import { refuse } from './answers';

/** What database or disk say of a request that they cannot do, by the first letters of the code, and what that comes to. */
const TROUBLE: readonly (readonly [string, number, string])[] = [
  ['ENOSPC', 507, 'the disk is full: nothing was taken'],
  ['53100', 507, 'the disk is full: nothing was written, and nothing can be until there is room'],
  ['53', 503, 'the database has no room for more work; try again in a moment'],
  ['22', 422, 'holds a value that the database cannot keep; must be plain text and ordinary numbers'],
  ['57', 503, 'the database is starting or stopping; try again in a moment'],
  ['08', 503, 'the database cannot be reached'],
];

const CONNECTION = ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOENT'];

/** What to answer where the work on a request fails; undefined where the fault is our own. */
export function troubleAnswer(error: unknown): Response | undefined {
  const { code, message } = error as { code?: unknown; message?: unknown };
  if (typeof code === 'string') {
    if (CONNECTION.includes(code)) return refuse(503, [{ path: '$', message: 'the database cannot be reached' }]);
    const known = TROUBLE.find(([start]) => code.startsWith(start));
    if (known) return refuse(known[1], [{ path: '$', message: known[2] }]);
  }
  // node-postgres gives a connection that broke no code of its own.
  if (
    typeof message === 'string' &&
    /connection (terminated|timeout|ended)|timeout exceeded when trying to connect/i.test(message)
  )
    return refuse(503, [{ path: '$', message: 'the database cannot be reached' }]);
  return undefined;
}

/** A route whose failures of database and disk are told for what they are. */
export function handled<A extends unknown[]>(
  work: (...args: A) => Promise<Response>,
): (...args: A) => Promise<Response> {
  return async (...args) => {
    try {
      return await work(...args);
    } catch (error) {
      const answer = troubleAnswer(error);
      if (!answer) throw error;
      console.error(error);
      return answer;
    }
  };
}
