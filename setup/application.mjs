/**
 * The built application behind a server of its own: what the framework would
 * stumble over is turned away before it sees it. Plain JavaScript, for it starts
 * sooner so.
 */
import { createServer } from 'node:http';
import path from 'node:path';
import next from 'next';
import { listenOnNetwork } from './network-listener.mjs';

const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE'];
/** Connections wait longer for the next request than browsers leave between two looks for what is new, ms. */
const KEEP_ALIVE_MILLISECONDS = 65_000;

const REFUSED_HEADERS = {
  'content-type': 'application/json',
  'cache-control': 'no-store',
  'x-content-type-options': 'nosniff',
  'content-security-policy': "default-src 'none'; frame-ancestors 'none'",
};

/** @param {string} url */
function canBeRead(url) {
  try {
    decodeURIComponent(url.split('?')[0]);
    return true;
  } catch {
    return false;
  }
}

/**
 * Why a request is not handed on; null where it is.
 * @param {import('node:http').IncomingMessage} request
 */
function refusal({ method, url }) {
  if (!METHODS.includes(method ?? ''))
    return { status: 405, message: `is ${method}; must be one of ${METHODS.join(', ')}` };
  if (!canBeRead(url ?? '/'))
    return { status: 400, message: 'has an address that is no text; must have % only before two digits of UTF-8' };
  return null;
}

const [, , port] = process.argv;
const hostname = '127.0.0.1';
const application = next({ dev: false, dir: path.resolve(import.meta.dirname, '..'), hostname, port: Number(port) });
await application.prepare();
const answer = application.getRequestHandler();

/**
 * Hands requests on with how they came in, over whatever they say of it themselves.
 * @param {'loopback' | 'network'} over
 * @returns {import('node:http').RequestListener}
 */
const handOn = (over) => (request, response) => {
  const { localAddress, remoteAddress } = request.socket;
  request.headers['x-eager-ladder-way'] = `${over} ${localAddress} ${remoteAddress}`;
  const refused = refusal(request);
  if (!refused) return void answer(request, response);
  response.writeHead(refused.status, REFUSED_HEADERS);
  response.end(JSON.stringify({ faults: [{ path: '$', message: refused.message }] }));
};

const server = createServer(handOn('loopback'));
server.keepAliveTimeout = KEEP_ALIVE_MILLISECONDS;
server.listen(Number(port), hostname);
const network = JSON.parse(process.env.EAGER_LADDER_NETWORK || 'null');
const servers = network ? [server, listenOnNetwork(network, handOn('network'))] : [server];
for (const one of servers)
  one.on('error', (error) => {
    // Somebody else took the port: whoever started this tries the next.
    console.error(error.message);
    process.exit(1);
  });
for (const signal of ['SIGTERM', 'SIGINT'])
  process.on(signal, () => {
    server.close(() => process.exit(0));
    server.closeIdleConnections();
  });
