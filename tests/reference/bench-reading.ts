import { randomUUID } from 'node:crypto';
import type { Reading } from '../../src/core/bench/entries';

/** A reading of tap B1, for tests that say what else matters of it. */
export const benchReading = (changes: Partial<Reading> = {}): Reading => ({
  id: randomUUID(),
  takenAt: '2026-03-01T10:01:00.000Z',
  kind: 'tap',
  at: 'B1',
  value: 33.1,
  expected: null,
  remark: '',
  pictureId: null,
  meter: null,
  sinceOnSeconds: null,
  heldSeconds: null,
  replaces: null,
  ...changes,
});
