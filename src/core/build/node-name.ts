/** A node as a builder reads it: its own name, or the end of the drive that it is. */
export const nodeName = (id: string): string =>
  id === 'source' ? 'drive' : id === 'antisource' ? 'drive, other end' : id;
