/** What a fault of the machine means to whoever starts the application, by its code. */
const MEANINGS: Readonly<Record<string, string>> = {
  ENOSPC: 'The disk is full. Nothing that was saved is harmed: make room and start again.',
  EDQUOT: 'Your share of the disk is used up. Nothing that was saved is harmed: make room and start again.',
  ENOENT: 'cannot be made. Set EAGER_LADDER_DATA to a folder that can be written.',
  EROFS: 'cannot be written, for the disk is read-only. Set EAGER_LADDER_DATA to a folder that can be written.',
  EACCES: 'cannot be written by this user. Set EAGER_LADDER_DATA to a folder that can be.',
  EPERM: 'cannot be written by this user. Set EAGER_LADDER_DATA to a folder that can be.',
};

/** An error of setting up in words that say what to do. */
export function plainly(error: unknown): string {
  const { code, path, message, syscall } = error as NodeJS.ErrnoException;
  if (/No space left on device/.test(message)) return MEANINGS.ENOSPC;
  const meaning = code === undefined ? undefined : MEANINGS[code];
  if (!meaning || (code === 'ENOENT' && syscall !== 'mkdir')) return message;
  return meaning.startsWith('cannot') ? `${path ?? 'The folder'} ${meaning}` : meaning;
}
