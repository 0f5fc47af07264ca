import { namesAt, type Way } from './entry/way';

/** What a request says of itself, and how it came in, as far as it decides whether it may be answered. */
export type Asked = { method: string; path: string; headers: Pick<Headers, 'get'>; way: Way };

/** Why a request is not answered. */
export type Turned = { status: number; message: string };

/** What does not come under a name of ours, or does not say how it came in. */
export const NOT_OURS: Turned = {
  status: 421,
  message: 'is not for this application; must be asked at the address that it was started with',
};

/** What comes without a session where one is asked. */
export const NEEDS_PASS_PHRASE: Turned = {
  status: 401,
  message: 'needs the pass phrase; open this address in another tab and enter it there',
};

const READING = ['GET', 'HEAD'];
const WRITING = ['POST', 'PUT', 'PATCH', 'DELETE'];

/** Kinds of body that no form of another site can send without being asked first; a picture comes as bytes. */
const SENT_AS = ['application/json', 'application/octet-stream'];

const nameOf = (host: string): string => host.replace(/:\d+$/, '').toLowerCase();

/**
 * Whether a request is turned away before anything looks at it: one that comes
 * under a name that is not ours (a foreign page's name turned to this machine),
 * a write that another site's page sends, or one that is not JSON.
 *
 * @returns null where it may go on
 */
export function turnedAway({ method, path, headers, way }: Asked): Turned | null {
  const host = headers.get('host');
  if (host === null || !namesAt(way).includes(nameOf(host))) return NOT_OURS;
  if (READING.includes(method)) return null;
  if (!WRITING.includes(method)) return { status: 405, message: `is ${method}, which nothing here answers` };
  const site = headers.get('sec-fetch-site');
  const origin = headers.get('origin');
  const foreign = origin !== null && origin !== `http://${host}` && origin !== `https://${host}`;
  if (foreign || (site !== null && site !== 'same-origin' && site !== 'none'))
    return { status: 403, message: 'comes from a page of another site; must come from this application' };
  const type = headers.get('content-type')?.split(';')[0].trim().toLowerCase();
  if (path.startsWith('/api/') && !SENT_AS.includes(type ?? ''))
    return { status: 415, message: 'is not JSON; must be sent as application/json' };
  return null;
}

/** What every answer says of how it may be used. */
export const ANSWER_HEADERS: Readonly<Record<string, string>> = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'no-referrer',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'permissions-policy': 'camera=(), geolocation=(), microphone=(), payment=(), usb=()',
};

/** And what every one says that is no page. */
export const DATA_HEADERS: Readonly<Record<string, string>> = {
  'content-security-policy': "default-src 'none'; frame-ancestors 'none'",
  'cache-control': 'no-store',
};
