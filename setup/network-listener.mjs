/**
 * HTTPS on the local network, beside the application's address on loopback.
 * Plain JavaScript, as what starts it is.
 */
import { readFileSync } from 'node:fs';
import { createServer as createPlain } from 'node:http';
import { createServer as createSecure } from 'node:https';
import { BlockList, createServer as createDoor, isIP } from 'node:net';
import path from 'node:path';

/** The first byte of what begins an encrypted connection. */
const ENCRYPTED = 22;
/** Who connects and says nothing for this long is let go, ms. */
const SILENCE_MILLISECONDS = 10_000;
/** A connection on which nothing moves for this long is let go, ms; one that waits for the next request somewhat sooner. */
const IDLE_MILLISECONDS = 120_000;
const KEEP_ALIVE_MILLISECONDS = 65_000;
/** A browser keeps a handful of connections; a household has a handful of browsers. */
const MOST_CONNECTIONS = 200;

const familyOf = (address) => (isIP(address) === 6 ? 'ipv6' : 'ipv4');

/**
 * Listens where the network can reach it. Whoever comes from outside a private
 * network is let go unheard; whoever comes without encryption is sent to where
 * there is.
 *
 * @param {{ host: string, port: number, folder: string, ranges: [string, number][] }} network
 * @param {import('node:http').RequestListener} answer
 * @returns {import('node:net').Server}
 */
export function listenOnNetwork({ host, port, folder, ranges }, answer) {
  const local = new BlockList();
  for (const [start, bits] of ranges) local.addSubnet(start, bits, familyOf(start));
  const isLocal = (address) => address !== undefined && local.check(address, familyOf(address));
  const secure = createSecure(
    {
      key: readFileSync(path.join(folder, 'server.key')),
      cert: readFileSync(path.join(folder, 'server.crt')),
      minVersion: 'TLSv1.2',
    },
    answer,
  );
  secure.timeout = IDLE_MILLISECONDS;
  secure.keepAliveTimeout = KEEP_ALIVE_MILLISECONDS;
  const plain = createPlain((request, response) => {
    response.writeHead(308, { location: `https://${request.headers.host ?? ''}${request.url}`, connection: 'close' });
    response.end();
  });
  plain.timeout = SILENCE_MILLISECONDS;
  const door = createDoor((socket) => {
    socket.on('error', () => socket.destroy());
    if (!isLocal(socket.localAddress) || !isLocal(socket.remoteAddress)) return socket.destroy();
    socket.setTimeout(SILENCE_MILLISECONDS, () => socket.destroy());
    socket.once('data', (first) => {
      socket.setTimeout(0);
      socket.removeAllListeners('timeout');
      socket.pause();
      socket.unshift(first);
      (first[0] === ENCRYPTED ? secure : plain).emit('connection', socket);
      process.nextTick(() => socket.resume());
    });
  });
  door.maxConnections = MOST_CONNECTIONS;
  door.listen(port, host);
  return door;
}
