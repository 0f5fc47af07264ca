import { NO_PICTURE, pictureTooLarge, startsAsPicture } from '@/core/bench/picture';

/** What is wrong with a file that is to be a picture, read by what is in it; null where nothing is. */
export async function readPicture(file: File): Promise<string | null> {
  const tooLarge = pictureTooLarge(file.size);
  if (tooLarge) return `The file ${tooLarge}.`;
  try {
    if (!startsAsPicture(new Uint8Array(await file.slice(0, 16).arrayBuffer()))) throw new Error('not a picture');
    (await createImageBitmap(file)).close();
    return null;
  } catch {
    return `The file ${NO_PICTURE}.`;
  }
}
