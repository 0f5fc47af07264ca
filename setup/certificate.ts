import { execFile } from 'node:child_process';
import { X509Certificate } from 'node:crypto';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { hostname, tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { isIP } from 'node:net';
import { LOCAL_RANGES } from './network';

const run = promisify(execFile);

/** Ten years for what a telephone is told to trust once; browsers take no more than 398 days of a server's. */
const AUTHORITY_DAYS = 3650;
const SERVER_DAYS = 397;
const RENEWED_BEFORE_DAYS = 30;

const KEY = ['-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes'];

/** What stands after IP: in a constraint of names, an address with its mask. */
function withMask([start, bits]: readonly [string, number]): string {
  const six = isIP(start) === 6;
  const groups = six ? 8 : 4;
  const width = six ? 16 : 8;
  const mask = Array.from({ length: groups }, (_, group) => {
    const set = Math.min(width, Math.max(0, bits - group * width));
    const value = (2 ** width - 1) & ~(2 ** (width - set) - 1);
    return six ? value.toString(16) : String(value);
  });
  return `${start}/${mask.join(six ? ':' : '.')}`;
}

const namesOf = (machine: string): string[] => [machine, `${machine}.local`, 'localhost'];
/** No longer than a certificate's name may be. */
const authorityName = (machine: string): string => `Eager Ladder on ${machine.slice(0, 40)}`;

/** The authority may vouch for this machine's names and for addresses of private networks, so that its key is no use elsewhere. */
const configFor = (addresses: readonly string[], machine: string): string => `
[req]
distinguished_name = name
prompt = no
[name]
CN = ${authorityName(machine)}
[authority]
basicConstraints = critical, CA:TRUE, pathlen:0
keyUsage = critical, keyCertSign
subjectKeyIdentifier = hash
nameConstraints = critical, @permitted
[permitted]
${LOCAL_RANGES.map((range, at) => `permitted;IP.${at} = ${withMask(range)}`).join('\n')}
${namesOf(machine)
  .map((name, at) => `permitted;DNS.${at} = ${name}`)
  .join('\n')}
[server]
basicConstraints = critical, CA:FALSE
keyUsage = critical, digitalSignature
extendedKeyUsage = serverAuth
subjectKeyIdentifier = hash
authorityKeyIdentifier = keyid
subjectAltName = @alternative
[alternative]
${namesOf(machine)
  .map((name, at) => `DNS.${at} = ${name}`)
  .join('\n')}
${addresses.map((address, at) => `IP.${at} = ${address}`).join('\n')}
`;

const read = (file: string): X509Certificate | null =>
  existsSync(file) ? new X509Certificate(readFileSync(file)) : null;

const lasts = ({ validTo }: X509Certificate): boolean =>
  Date.parse(validTo) - Date.now() > RENEWED_BEFORE_DAYS * 86_400_000;

export type Certificates = {
  /** SHA-256, by which the authority is recognised, and the server that it vouches for. */
  authority: string;
  server: string;
  /** What happened to them just now. */
  made: 'both' | 'server' | 'none';
};

/**
 * The certificates for HTTPS, made where they are missing, end soon or do not
 * name an address: a small authority that a telephone can be told to trust
 * once, and the server's, vouched for by it.
 */
export async function certificatesFor(
  folder: string,
  addresses: readonly string[],
  machine = hostname().toLowerCase(),
): Promise<Certificates> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  chmodSync(folder, 0o700);
  const at = (name: string) => path.join(folder, name);
  const old = read(at('authority.crt'));
  const keeps =
    old !== null && lasts(old) && existsSync(at('authority.key')) && old.subject === `CN=${authorityName(machine)}`;
  const server = read(at('server.crt'));
  const serves =
    keeps &&
    server !== null &&
    existsSync(at('server.key')) &&
    lasts(server) &&
    server.checkIssued(old) &&
    server.checkHost(machine) !== undefined &&
    addresses.every((address) => server.checkIP(address) !== undefined);
  if (!serves) await makeCertificates(folder, configFor(addresses, machine), keeps);
  return {
    authority: read(at('authority.crt'))!.fingerprint256,
    server: read(at('server.crt'))!.fingerprint256,
    made: serves ? 'none' : keeps ? 'server' : 'both',
  };
}

/** Made aside and moved into place, the keys for their owner alone from the start. */
async function makeCertificates(folder: string, settings: string, keepsAuthority: boolean): Promise<void> {
  const aside = mkdtempSync(path.join(tmpdir(), 'eager-ladder-certificates-'));
  try {
    const config = path.join(aside, 'config');
    writeFileSync(config, settings);
    const openssl = (...words: string[]) => run('openssl', words, { cwd: aside });
    const from = keepsAuthority ? folder : aside;
    if (!keepsAuthority)
      await openssl(
        ...['req', '-x509', ...KEY, '-config', config, '-extensions', 'authority', '-days', String(AUTHORITY_DAYS)],
        ...['-keyout', 'authority.key', '-out', 'authority.crt'],
      );
    await openssl('req', '-new', ...KEY, '-config', config, '-keyout', 'server.key', '-out', 'server.csr');
    await openssl(
      ...['x509', '-req', '-in', 'server.csr', '-days', String(SERVER_DAYS)],
      ...['-extfile', config, '-extensions', 'server'],
      ...['-CA', path.join(from, 'authority.crt'), '-CAkey', path.join(from, 'authority.key'), '-CAcreateserial'],
      ...['-CAserial', path.join(aside, 'serial'), '-out', 'server.crt'],
    );
    const ready = [...(keepsAuthority ? [] : ['authority.key', 'authority.crt']), 'server.key', 'server.crt'];
    for (const name of ready) {
      const made = readFileSync(path.join(aside, name));
      const beside = path.join(folder, `${name}.making-${process.pid}`);
      writeFileSync(beside, made, { mode: 0o600 });
      renameSync(beside, path.join(folder, name));
    }
  } finally {
    rmSync(aside, { recursive: true, force: true });
  }
}
