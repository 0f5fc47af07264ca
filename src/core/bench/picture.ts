/** The largest file taken for a picture, bytes: what a telephone's camera writes, with room. */
const MOST_PICTURE_BYTES = 16 * 1024 * 1024;

/** What is said of a file that is none of the pictures that are taken. */
export const NO_PICTURE = 'is no picture that can be read; must be a JPEG, PNG or WebP file, whatever its name';

/** What is said of one that is too large; null for one that is not. */
export const pictureTooLarge = (bytes: number): string | null =>
  bytes > MOST_PICTURE_BYTES
    ? `is ${(bytes / 1024 / 1024).toFixed(1)} MB; must be ${MOST_PICTURE_BYTES / 1024 / 1024} MB at most`
    : null;

const STARTS: readonly (readonly (number | null)[])[] = [
  [0xff, 0xd8, 0xff],
  [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a],
  [0x52, 0x49, 0x46, 0x46, null, null, null, null, 0x57, 0x45, 0x42, 0x50],
];

/** Whether a file starts as one of the pictures that are taken: JPEG (ITU-T T.81), PNG (ISO 15948), WebP (RFC 9649), from memory. */
export const startsAsPicture = (file: Uint8Array): boolean =>
  STARTS.some((start) => start.every((byte, at) => byte === null || file[at] === byte));
