import { hostname } from 'node:os';

/** Written by the server in front of the application onto each request, over whatever a client may have sent. */
const WAY_HEADER = 'x-eager-ladder-way';

/** How a request came in. */
export type Way = {
  over: 'loopback' | 'network';
  /** Our address that it came to, and the one it came from. */
  at: string;
  from: string;
};

/** Names that this machine has for itself; a page elsewhere that points its own name here is not one of them. */
const OWN_NAMES = ['127.0.0.1', 'localhost', '[::1]'];

/**
 * @returns null where nothing says it, which only development may take for loopback
 */
export function wayOf(headers: Pick<Headers, 'get'>): Way | null {
  const [over, at, from] = headers.get(WAY_HEADER)?.split(' ') ?? [];
  if ((over === 'loopback' || over === 'network') && at && from) return { over, at, from };
  return process.env.NODE_ENV === 'development' ? { over: 'loopback', at: '127.0.0.1', from: '127.0.0.1' } : null;
}

/** The names under which a request that came this way may ask for us, without port, in small letters. */
export function namesAt({ over, at }: Way): string[] {
  if (over === 'loopback') return OWN_NAMES;
  const machine = hostname().toLowerCase();
  return [at.includes(':') ? `[${at}]` : at, machine, `${machine}.local`];
}
