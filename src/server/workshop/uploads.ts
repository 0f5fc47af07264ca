import { rmSync } from 'node:fs';
import { mkdtemp, open, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';

/** Archives that are sent piece by piece, so that none is ever held in memory as a whole. */
let made: Promise<string> | null = null;

function folder(): Promise<string> {
  made ??= mkdtemp(`${tmpdir()}/eager-ladder-archives-`).then((name) => {
    process.once('exit', () => rmSync(name, { recursive: true, force: true }));
    return name;
  });
  return made;
}

/** What nobody has gone on with is thrown away, ms. */
const FORGOTTEN_MILLISECONDS = 3600_000;

/** When the last piece of each came. */
const lastPiece = new Map<string, number>();

const fileOf = async (id: string) => `${await folder()}/${id}.zip`;

/** The file of what was sent so far; null where nothing was. */
export async function uploaded(id: string): Promise<string | null> {
  const file = await fileOf(id);
  return (await stat(file).catch(() => null)) ? file : null;
}

/**
 * Takes the next piece of an archive.
 *
 * @param at how much of it went before, bytes
 * @returns how much of it is there now; what is there already is not taken again
 */
export async function takePiece(id: string, at: number, piece: Uint8Array): Promise<number> {
  if (at === 0) await forgetOld();
  lastPiece.set(id, Date.now());
  const file = await open(await fileOf(id), 'a', 0o600);
  try {
    const { size } = await file.stat();
    if (size !== at) return size;
    await file.appendFile(piece);
    return size + piece.length;
  } finally {
    await file.close();
  }
}

export async function dropUpload(id: string): Promise<void> {
  lastPiece.delete(id);
  await rm(await fileOf(id), { force: true });
}

async function forgetOld(): Promise<void> {
  for (const [id, at] of lastPiece) if (at < Date.now() - FORGOTTEN_MILLISECONDS) await dropUpload(id);
}
