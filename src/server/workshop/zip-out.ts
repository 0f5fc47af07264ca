import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import type { Manifest } from '@/core/workshop/archive';

/** The same for every member, so that the same workshop is the same file. */
const MEMBER = { mtime: new Date(1980, 0, 1), mode: 0o100644, forceDosTimestamp: true };

/** A ZIP file that is written member by member, no faster than it is read. */
export function zipOut() {
  const zip = new ZipFile();
  const output = zip.outputStream as Readable;
  const members: Manifest['members'] = [];
  const put = (path: string, bytes: Buffer, compress: boolean): Promise<void> =>
    new Promise((resolve, reject) => {
      if (output.destroyed) return reject(new Error('whoever asked for the archive has gone'));
      const gone = () => reject(new Error('whoever asked for the archive has gone'));
      output.once('close', gone);
      zip.addReadStreamLazy(path, { ...MEMBER, compress, size: bytes.length }, (give) => {
        const stream = Readable.from([bytes]);
        stream.once('end', () => {
          output.off('close', gone);
          resolve();
        });
        give(null, stream);
      });
    });
  return {
    output,
    members,
    /** Adds a member, and waits until it is on its way. */
    add: async (path: string, bytes: Buffer, compress = true): Promise<void> => {
      members.push({ path, bytes: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') });
      await put(path, bytes, compress);
    },
    /** Adds the last member, which names the others, and ends. */
    end: async (path: string, bytes: Buffer): Promise<void> => {
      await put(path, bytes, true);
      zip.end();
    },
  };
}
