import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';

/** How long a session lasts, s. */
export const SESSION_SECONDS = 30 * 24 * 3600;

const signatureOf = (key: Buffer, what: string): Buffer => createHmac('sha256', key).update(what).digest();

/**
 * A session as it stands in the cookie: when it ends, something unlike any
 * other's, and what only the key can sign. Whoever changes the key ends them all.
 *
 * @param now ms since 1970
 */
export function openSession(key: Buffer, now = Date.now()): string {
  const what = `${Math.floor(now / 1000) + SESSION_SECONDS}.${randomBytes(16).toString('base64url')}`;
  return `${what}.${signatureOf(key, what).toString('base64url')}`;
}

/** Whether a session was opened with this key and has not ended. */
export function isSession(key: Buffer, session: string, now = Date.now()): boolean {
  const parts = session.split('.');
  if (parts.length !== 3) return false;
  const [ends, unlike, signature] = parts;
  const given = Buffer.from(signature, 'base64url');
  const right = signatureOf(key, `${ends}.${unlike}`);
  return given.length === right.length && timingSafeEqual(given, right) && Number(ends) * 1000 > now;
}
