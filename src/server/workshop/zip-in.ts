import { createHash } from 'node:crypto';
import { buffer } from 'node:stream/consumers';
import * as yauzl from 'yauzl';
import type * as z from '@/core/zod';
import { boundsFault, type Bounds } from '@/core/schema/bounds';
import { faultsOf, type Fault } from '@/core/schema/faults';
import { inMember, MANIFEST, manifestSchema, MEMBER_BOUNDS, placeOf, type Manifest } from '@/core/workshop/archive';

/** The most that one member may hold once it is unpacked, bytes. */
const MOST_MEMBER_BYTES = 256 * 1024 * 1024;

/** Why an archive is not taken: nothing of it is then. */
export class ArchiveRefused extends Error {
  constructor(readonly faults: Fault[]) {
    super(faults.map(({ path, message }) => `${path} ${message}`).join('; '));
  }
}

const refused = (path: string, message: string) => new ArchiveRefused([{ path, message }]);

/** The members of an archive, each checked against what the archive says of it before it is read. */
export type ZipIn = {
  paths: readonly string[];
  has: (path: string) => boolean;
  bytes: (path: string) => Promise<Buffer>;
  /** A member as a schema reads it; null for one whose parts are held to bounds of their own. */
  json: <T extends z.ZodType>(path: string, schema: T, bounds?: Bounds | null) => Promise<z.output<T>>;
  close: () => void;
};

/**
 * Opens an archive.
 *
 * @throws ArchiveRefused for what is no such archive, one of another version, or one with a member missing or too many
 */
export async function zipIn(file: string): Promise<ZipIn> {
  let zip: yauzl.ZipFile;
  try {
    zip = await yauzl.openPromise(file, { autoClose: false, lazyEntries: true });
  } catch (error) {
    throw refused('$', `is no ZIP file that can be read (${(error as Error).message}); must be a workshop archive`);
  }
  try {
    return await opened(zip);
  } catch (error) {
    zip.close();
    throw error;
  }
}

async function opened(zip: yauzl.ZipFile): Promise<ZipIn> {
  const entries = new Map<string, yauzl.Entry>();
  try {
    for await (const entry of zip.eachEntry()) {
      if (entries.has(entry.fileName)) throw refused(entry.fileName, 'is in it twice; must be in it once');
      entries.set(entry.fileName, entry);
    }
  } catch (error) {
    if (error instanceof ArchiveRefused) throw error;
    throw refused('$', `is damaged (${(error as Error).message}); must be as it was written`);
  }

  const unpacked = async (path: string): Promise<Buffer> => {
    const entry = entries.get(path)!;
    if (entry.uncompressedSize > MOST_MEMBER_BYTES)
      throw refused(path, `is larger than ${MOST_MEMBER_BYTES} bytes; must be smaller`);
    try {
      return await buffer(await zip.openReadStreamPromise(entry));
    } catch (error) {
      throw refused(path, `is damaged (${(error as Error).message}); must be as it was written`);
    }
  };

  if (!entries.has(MANIFEST)) throw refused(MANIFEST, 'is missing; must be there: only a workshop archive has it');
  const { members } = read(MANIFEST, await unpacked(MANIFEST), manifestSchema, MEMBER_BOUNDS);
  const told = new Map(members.map((member) => [member.path, member]));
  const faults: Fault[] = [];
  for (const { path } of members) if (!entries.has(path)) faults.push({ path, message: 'is missing; must be there' });
  for (const path of entries.keys()) {
    if (path === MANIFEST) continue;
    if (!told.has(path)) faults.push({ path, message: `is not named in ${MANIFEST}; must be named there or left out` });
    else if (placeOf(path) === null) faults.push({ path, message: 'is no member that an archive of this version has' });
  }
  if (faults.length > 0) throw new ArchiveRefused(faults);

  const bytes = async (path: string): Promise<Buffer> => {
    const content = await unpacked(path);
    const { sha256, bytes: length } = told.get(path) as Manifest['members'][number];
    if (content.length !== length || createHash('sha256').update(content).digest('hex') !== sha256)
      throw refused(path, 'is damaged: it is not what was written; must be as its SHA-256 says');
    return content;
  };
  return {
    paths: [...told.keys()],
    has: (path) => told.has(path),
    bytes,
    json: async (path, schema, bounds = MEMBER_BOUNDS) => read(path, await bytes(path), schema, bounds),
    close: () => zip.close(),
  };
}

function read<T extends z.ZodType>(path: string, content: Buffer, schema: T, bounds: Bounds | null): z.output<T> {
  let document: unknown;
  try {
    document = JSON.parse(content.toString('utf8'));
  } catch (error) {
    throw refused(path, `is not JSON (${(error as Error).message}); must be JSON`);
  }
  const tooMuch = bounds && boundsFault(document, bounds);
  if (tooMuch) throw new ArchiveRefused([inMember(path, tooMuch)]);
  const result = schema.safeParse(document, { reportInput: true });
  if (!result.success) throw new ArchiveRefused(faultsOf(result.error).map((fault) => inMember(path, fault)));
  return result.data;
}
