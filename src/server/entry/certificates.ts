import { X509Certificate } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { entryFolder } from './entry';

/** A certificate and the SHA-256 fingerprint by which it is recognised. */
type Certificate = { pem: string; fingerprint: string };

function read(name: string): Certificate | null {
  const folder = entryFolder();
  const file = folder === null ? null : path.join(folder, name);
  if (file === null || !existsSync(file)) return null;
  const pem = readFileSync(file, 'utf8');
  return { pem, fingerprint: new X509Certificate(pem).fingerprint256 };
}

/** The one that HTTPS shows, about which a browser warns; null where none was made. */
export const serverCertificate = () => read('server.crt');

/** The one that vouches for it, which a telephone can be told to trust; null where none was made. */
export const authorityCertificate = () => read('authority.crt');
