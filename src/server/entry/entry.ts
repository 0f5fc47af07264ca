import { sessionKey } from './pass-phrase';
import { isSession, SESSION_SECONDS } from './session';
import type { Way } from './way';

/** Where what guards the way in is kept; null where nobody is asked for a pass phrase. */
export const entryFolder = (): string | null => process.env.EAGER_LADDER_ENTRY || null;

/** Cookies of one name are not told apart by port, so each port has a name. */
export const cookieName = (host: string): string => `eager-ladder-${/:(\d+)$/.exec(host)?.[1] ?? 'session'}`;

/**
 * What a browser is to keep of a session.
 *
 * @param session null to forget it
 */
export function cookieFor(host: string, { over }: Way, session: string | null): string {
  const lasts = session === null ? 0 : SESSION_SECONDS;
  // Over loopback there is no encryption to insist on.
  const secure = over === 'network' ? '; Secure' : '';
  return `${cookieName(host)}=${session ?? ''}; Path=/; Max-Age=${lasts}; HttpOnly; SameSite=Strict${secure}`;
}

/** Answered to anybody: what one enters by, and how the start learns that the application is up. */
const isOpen = (pathname: string, { over }: Way): boolean =>
  pathname === '/enter' || pathname === '/api/session' || (pathname === '/api/health' && over === 'loopback');

/** Whether the pass phrase is asked of those who come this way. */
export const asksOf = ({ over }: Way): boolean => over === 'network' || process.env.EAGER_LADDER_LOCKED === '1';

/** Whether a request is let through to what it asks for. */
export function mayEnter(way: Way, pathname: string, session: string | undefined): boolean {
  if (!asksOf(way) || isOpen(pathname, way)) return true;
  const folder = entryFolder();
  const key = folder === null ? null : sessionKey(folder);
  return key !== null && session !== undefined && isSession(key, session);
}
