import { BlockList, isIP } from 'node:net';
import { networkInterfaces } from 'node:os';

/** Addresses of private networks (RFC 1918, RFC 3927, RFC 4193), and this machine's own. */
export const LOCAL_RANGES: readonly (readonly [string, number])[] = [
  ['10.0.0.0', 8],
  ['172.16.0.0', 12],
  ['192.168.0.0', 16],
  ['169.254.0.0', 16],
  ['127.0.0.0', 8],
  ['fc00::', 7],
  ['::1', 128],
];

export const familyOf = (address: string): 'ipv4' | 'ipv6' => (isIP(address) === 6 ? 'ipv6' : 'ipv4');

export function isLocal(address: string): boolean {
  const local = new BlockList();
  for (const [start, bits] of LOCAL_RANGES) local.addSubnet(start, bits, familyOf(start));
  return local.check(address, familyOf(address));
}

/**
 * Where it is to be reached over the local network.
 *
 * @param wanted the one address to listen on; null for every one of a private network
 * @throws Error where that is no address of a private network
 */
export function addressesOf(wanted: string | null): string[] {
  const present = Object.values(networkInterfaces()).flatMap((addresses) => addresses ?? []);
  if (wanted === null)
    return present
      .filter(({ family, internal, address }) => family === 'IPv4' && !internal && isLocal(address))
      .map(({ address }) => address);
  if (isIP(wanted) === 0 || !isLocal(wanted) || !present.some(({ address }) => address === wanted))
    throw new Error(`--address ${wanted}: must be one that this machine has in a private network, such as 192.168.1.7`);
  return [wanted];
}
