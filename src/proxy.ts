import { NextResponse, type NextRequest } from 'next/server';
import { ANSWER_HEADERS, DATA_HEADERS, turnedAway } from './server/guard';

/** Hashes of the two states of sonner's own style element, which takes no nonce. */
const TOAST_STYLE_HASHES =
  "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU=' 'sha256-StEaX+se6YS7pqjzrzMIA0KaX9zF/8zAhvQXZAe5epY='";

/** Turns away what may not be answered, and gives each page a nonce and the content security policy that carries it. */
export function proxy(request: NextRequest): NextResponse {
  const { pathname } = request.nextUrl;
  const turned = turnedAway({ method: request.method, path: pathname, headers: request.headers });
  if (turned) {
    const faults = [{ path: '$', message: turned.message }];
    return NextResponse.json({ faults }, { status: turned.status, headers: { ...ANSWER_HEADERS, ...DATA_HEADERS } });
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
