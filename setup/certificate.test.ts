import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { isIP } from 'node:net';
import path from 'node:path';
import { connect, createServer } from 'node:tls';
import { certificatesFor } from './certificate';
import { addressesOf, isLocal } from './network';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'eager-ladder-certificate-'));
});
afterEach(() => rmSync(folder, { recursive: true }));

const kept = (name: string) => readFileSync(path.join(folder, name), 'utf8');

/** What somebody who trusts the authority makes of the server's certificate; null where it is content. */
async function verdictOf(host: string): Promise<string | null> {
  const server = createServer({ key: kept('server.key'), cert: kept('server.crt') });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as { port: number };
  const socket = connect({ host: '127.0.0.1', port, ca: kept('authority.crt'), servername: '' });
  try {
    // Rejects with the error where the connection is refused.
    await once(socket, 'secureConnect');
    const certificate = socket.getPeerX509Certificate()!;
    const named = isIP(host) ? certificate.checkIP(host) : certificate.checkHost(host);
    return named === undefined ? 'of another name' : null;
  } catch (error) {
    return (error as Error).message;
  } finally {
    socket.destroy();
    server.close();
  }
}

it('a browser that trusts the authority is content with the server, at its addresses alone', async () => {
  const { made } = await certificatesFor(folder, ['192.168.1.7', '127.0.0.1']);
  expect(made).toBe('both');
  expect(await verdictOf('127.0.0.1')).toBeNull();
  expect(await verdictOf('192.168.1.8')).toBe('of another name');
});

it('the authority vouches for nothing outside private networks', async () => {
  await certificatesFor(folder, ['127.0.0.1', '203.0.113.5']);
  // OpenSSL’s words for X509_V_ERR_PERMITTED_VIOLATION.
  expect(await verdictOf('127.0.0.1')).toMatch(/permitted subtree violation/);
});

it('a new address takes a new certificate, vouched for by the same authority', async () => {
  const first = await certificatesFor(folder, ['127.0.0.1']);
  const server = kept('server.crt');
  expect(await certificatesFor(folder, ['127.0.0.1'])).toEqual({ ...first, made: 'none' });
  expect(kept('server.crt')).toBe(server);
  const second = await certificatesFor(folder, ['127.0.0.1', '10.0.0.7']);
  expect([second.made, second.authority]).toEqual(['server', first.authority]);
  expect(second.server).not.toBe(first.server);
  expect(kept('server.crt')).not.toBe(server);
  expect(await verdictOf('10.0.0.7')).toBeNull();
});

it('without its key the authority is made anew', async () => {
  const first = await certificatesFor(folder, ['127.0.0.1']);
  rmSync(path.join(folder, 'authority.key'));
  const second = await certificatesFor(folder, ['127.0.0.1']);
  expect(second.made).toBe('both');
  expect(second.authority).not.toBe(first.authority);
  expect(await verdictOf('127.0.0.1')).toBeNull();
});

it('an authority for a machine of another name is made anew', async () => {
  const first = await certificatesFor(folder, ['127.0.0.1'], 'my-bench');
  // Its name ends like the other's, which is no reason to take it for that.
  const second = await certificatesFor(folder, ['127.0.0.1'], 'bench');
  expect([first.made, second.made]).toEqual(['both', 'both']);
  expect(await verdictOf('127.0.0.1')).toBeNull();
  expect(await verdictOf('bench.local')).toBeNull();
});

it('keys are for their owner alone', async () => {
  await certificatesFor(folder, ['127.0.0.1']);
  for (const key of ['authority.key', 'server.key']) expect(statSync(path.join(folder, key)).mode & 0o777).toBe(0o600);
});

it.each(['10.1.2.3', '172.16.0.1', '172.31.255.255', '192.168.0.1', '169.254.9.9', '127.0.0.1', 'fd00::1', '::1'])(
  '%s is of a private network',
  (address) => expect(isLocal(address)).toBe(true),
);
it.each(['8.8.8.8', '172.32.0.1', '192.169.0.1', '11.0.0.1', '100.64.0.1', '2001:db8::1', 'fe80::1'])(
  '%s is not',
  (address) => expect(isLocal(address)).toBe(false),
);
it.each(['203.0.113.5', 'bench', '', '192.168.1', '127.9.9.9'])('--address %s is refused', (address) =>
  expect(() => addressesOf(address)).toThrow(/must be one that this machine has in a private network/),
);
