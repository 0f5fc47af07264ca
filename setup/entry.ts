import { renderUnicodeCompact } from 'uqr';
import { hasPassPhrase, makePassPhrase } from '../src/server/entry/pass-phrase';
import { certificatesFor, type Certificates } from './certificate';
import { addressesOf } from './network';
import { portFrom, type Options } from './options';
import { OPEN_HERE, type Entry } from './serve';

export type Prepared = { entry: Entry; certificates: Certificates | null };

/**
 * Makes what is missing of pass phrase and certificates for the way in that was asked for.
 *
 * @param folder for those
 */
export async function prepareEntry(
  { network, address, locked, newPassPhrase }: Options,
  folder: string,
): Promise<Prepared> {
  if (!network && !locked) return { entry: OPEN_HERE, certificates: null };
  const passPhrase = newPassPhrase || !hasPassPhrase(folder) ? await makePassPhrase(folder) : null;
  if (!network) return { entry: { folder, network: null, locked, passPhrase }, certificates: null };
  const port = portFrom('NETWORK_PORT', 4181);
  const addresses = addressesOf(address);
  const certificates = await certificatesFor(folder, addresses);
  return {
    entry: { folder, network: { host: address ?? '0.0.0.0', port, addresses }, locked, passPhrase },
    certificates,
  };
}

/** Black on white, whatever the terminal's own colours are. */
function codeOf(address: string): string {
  const lines = renderUnicodeCompact(address, { border: 2 }).split('\n');
  return lines.map((line) => `  \u001b[30;107m${line}\u001b[0m`).join('\n');
}

/**
 * What to say of the way in, for a terminal.
 *
 * @param networkAddresses where it is reached over the network
 * @param colours whether what it is shown on knows colours; without, there is no code to scan
 */
export function entryWords({ entry, certificates }: Prepared, networkAddresses: string[], colours: boolean): string {
  const said: string[] = [];
  const [first, ...others] = networkAddresses;
  if (first !== undefined) {
    said.push(`On the local network: ${first}`);
    if (others.length > 0) said.push(`or ${others.join(', ')}`);
    if (colours) said.push('', codeOf(first), '');
  } else if (entry.network) {
    said.push('This machine has no address of a private network just now; connect it and start again.');
  }
  if (certificates?.made === 'both')
    said.push('Certificates were made: a telephone warns of them once, as nobody else vouches for them.');
  if (certificates?.made === 'server') said.push('A new certificate was made, for other addresses or a longer time.');
  if (certificates) said.push(`Its certificate’s SHA-256 fingerprint: ${certificates.server}`);
  if (entry.passPhrase)
    said.push(
      `Pass phrase: ${entry.passPhrase}`,
      'Write it down: it is kept only as a hash, and shown no more once this start has ended.',
    );
  else if (entry.network || entry.locked)
    said.push('The pass phrase is the one made before; --new-pass-phrase makes another.');
  return said.join('\n');
}
