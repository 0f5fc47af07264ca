import { createServer, connect, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';

/** A way to the server that can be cut and made slow, for all that goes over it, whichever page or closing page sends it. */
export type Line = {
  address: string;
  /** Ends what goes over it, and refuses what comes until it is restored. */
  cut: () => void;
  close: () => Promise<void>;
  restore: () => void;
  /** How often something has come while it was cut. */
  refused: () => number;
  /** Holds back what the browser sends by so much, ms. */
  slowTo: (milliseconds: number) => void;
};

export async function openLine(to: string): Promise<Line> {
  const { hostname, port } = new URL(to);
  const sockets = new Set<Socket>();
  let delay = 0;
  let isCut = false;
  let refused = 0;
  const server = createServer((near) => {
    if (isCut) {
      refused += 1;
      near.on('error', () => near.destroy());
      return near.destroy();
    }
    const far = connect(Number(port), hostname);
    for (const socket of [near, far]) {
      sockets.add(socket);
      socket.on('error', () => socket.destroy());
      socket.on('close', () => {
        sockets.delete(socket);
        near.destroy();
        far.destroy();
      });
    }
    near.on('data', (chunk) => void setTimeout(() => far.write(chunk), delay));
    far.pipe(near);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port: near } = server.address() as AddressInfo;
  const cut = () => {
    isCut = true;
    for (const socket of sockets) socket.destroy();
  };
  return {
    address: `http://127.0.0.1:${near}`,
    cut,
    close: () => {
      cut();
      return new Promise((resolve) => server.close(() => resolve()));
    },
    restore: () => {
      isCut = false;
    },
    refused: () => refused,
    slowTo: (milliseconds) => {
      delay = milliseconds;
    },
  };
}
