import type { PoolClient } from 'pg';
import sharp from 'sharp';
import { NotKept } from './bench';
import { pool, transaction } from './pool';

/** Pictures that one design may have. */
export const MOST_PICTURES = 500;

const FORMATS: readonly string[] = ['jpeg', 'png', 'webp'];
/** Longest side and pixels at most: more than a screen shows, and than decoding may take memory for. */
const MOST_PIXELS_A_SIDE = 2400;
const MOST_PIXELS = 100e6;
const QUALITY = 82;

/**
 * A picture as it is kept: read by what is in the file and not by its name,
 * turned upright, written anew as a JPEG, so that place, time and camera that the
 * file tells of are gone.
 *
 * @returns null for what is no picture that can be read
 */
export async function asKept(file: Uint8Array): Promise<Buffer | null> {
  try {
    const read = sharp(file, { limitInputPixels: MOST_PIXELS, failOn: 'error' });
    const { format } = await read.metadata();
    if (!FORMATS.includes(format)) return null;
    return await read
      .rotate()
      .resize({ width: MOST_PIXELS_A_SIDE, height: MOST_PIXELS_A_SIDE, fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: QUALITY })
      .toBuffer();
  } catch {
    return null;
  }
}

/** A picture that was kept before: as it is where it says nothing but what it shows, else written anew; null for no picture. */
export async function asKeptBefore(jpeg: Buffer): Promise<Buffer | null> {
  try {
    const read = sharp(jpeg, { limitInputPixels: MOST_PIXELS, failOn: 'error' });
    const { format, width, height, exif, icc, iptc, xmp, comments } = await read.metadata();
    const tells = exif ?? icc ?? iptc ?? xmp ?? comments;
    if (format !== 'jpeg' || tells || Math.max(width, height) > MOST_PIXELS_A_SIDE) return await asKept(jpeg);
    // All of it is decoded: a file that breaks off is no picture.
    await read.stats();
    return jpeg;
  } catch {
    return null;
  }
}

/**
 * Keeps a picture of a design under an id; the same again changes nothing.
 *
 * @param jpeg as `asKept` gives it
 * @throws NotKept
 */
export const keepPicture = (designId: string, id: string, jpeg: Buffer): Promise<void> =>
  transaction(async (client) => {
    // Held until the end, so that two devices do not pass the limit together.
    const { rowCount: designs } = await client.query('SELECT 1 FROM designs WHERE id = $1 FOR NO KEY UPDATE', [
      designId,
    ]);
    if (designs === 0) throw new NotKept('no design');
    await writePicture(client, designId, id, jpeg);
    const { rows } = await client.query<{ count: number; own: number }>(
      `SELECT count(*)::integer AS count, (count(*) FILTER (WHERE id = $2))::integer AS own
         FROM bench_pictures WHERE design_id = $1`,
      [designId, id],
    );
    if (rows[0].own === 0) throw new NotKept('of another design');
    if (rows[0].count > MOST_PICTURES) throw new NotKept('too many');
  });

/** Puts a picture in where there is none of its id. */
export async function writePicture(client: PoolClient, designId: string, id: string, jpeg: Buffer): Promise<void> {
  await client.query(
    'INSERT INTO bench_pictures (id, design_id, jpeg) VALUES ($1, $2, $3) ON CONFLICT (id) DO NOTHING',
    [id, designId, jpeg],
  );
}

/** The JPEG kept under an id for a design; null where there is none. */
export async function findPicture(designId: string, id: string): Promise<Buffer | null> {
  const { rows } = await pool().query<{ jpeg: Buffer }>(
    'SELECT jpeg FROM bench_pictures WHERE id = $1 AND design_id = $2',
    [id, designId],
  );
  return rows[0]?.jpeg ?? null;
}
