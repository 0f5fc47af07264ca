import { NextResponse, type NextRequest } from 'next/server';
import { cookieName, mayEnter } from './server/entry/entry';
import { wayOf } from './server/entry/way';
import { ANSWER_HEADERS, DATA_HEADERS, NEEDS_PASS_PHRASE, NOT_OURS, turnedAway, type Turned } from './server/guard';

/** Hashes of the two states of sonner's own style element, which takes no nonce. */
const TOAST_STYLE_HASHES =
  "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU=' 'sha256-StEaX+se6YS7pqjzrzMIA0KaX9zF/8zAhvQXZAe5epY='";

function refusal({ status, message }: Turned): NextResponse {
  return NextResponse.json(
    { faults: [{ path: '$', message }] },
    { status, headers: { ...ANSWER_HEADERS, ...DATA_HEADERS } },
  );
}

/** Turns away what may not be answered, and gives each page a nonce and the content security policy that carries it. */
export function proxy(request: NextRequest): NextResponse {
  const { pathname, search } = request.nextUrl;
  const way = wayOf(request.headers);
  if (way === null) return refusal(NOT_OURS);
  const turned = turnedAway({ method: request.method, path: pathname, headers: request.headers, way });
  if (turned) return refusal(turned);
  const session = request.cookies.get(cookieName(request.headers.get('host')!))?.value;
  if (!mayEnter(way, pathname, session)) {
    if (pathname.startsWith('/api/')) return refusal(NEEDS_PASS_PHRASE);
    // Under the name and by the way that was asked by; the framework knows but one of each.
    const here = `${way.over === 'network' ? 'https' : 'http'}://${request.headers.get('host')}`;
    const location = new URL(`/enter?to=${encodeURIComponent(pathname + search)}`, here);
    return NextResponse.redirect(location, { status: 307, headers: { ...ANSWER_HEADERS, ...DATA_HEADERS } });
  }
  if (pathname.startsWith('/api/')) return NextResponse.next({ headers: { ...ANSWER_HEADERS, ...DATA_HEADERS } });
  const nonce = Buffer.from(crypto.getRandomValues(new Uint8Array(16))).toString('base64');
  const development = process.env.NODE_ENV === 'development';
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${development ? " 'unsafe-eval'" : ''}`,
    `style-src-elem 'self' ${development ? "'unsafe-inline'" : `'nonce-${nonce}' ${TOAST_STYLE_HASHES}`}`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    `connect-src 'self'${development ? ' ws:' : ''}`,
    "worker-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers }, headers: ANSWER_HEADERS });
  response.headers.set('content-security-policy', policy);
  return response;
}

export const config = { matcher: [{ source: '/((?!_next/static|_next/image|icon.svg).*)' }] };
