import { newDesign } from '@/core/design/new-design';
import { createEditorStore } from './editor-store';

const stored = () => ({
  id: 'x',
  design: newDesign('start'),
  revision: 1,
  savedAt: '2026-01-01T00:00:00Z',
  archivedAt: null,
});
const farads = (store: ReturnType<typeof createEditorStore>) => store.getState().design.ladder.capacitor.farads;

let now = 1_000_000;
beforeEach(() => {
  jest.spyOn(Date, 'now').mockImplementation(() => now);
});
afterEach(() => jest.restoreAllMocks());

it('joins the keystrokes of one field into one step, and parts fields and pauses', () => {
  const store = createEditorStore(stored());
  const { edit } = store.getState();
  for (const value of [4e-9, 4.7e-9, 4.75e-9]) edit('$.ladder.capacitor.farads', value);
  edit('$.ladder.stages', 3);
  now += 5000;
  edit('$.ladder.stages', 4);
  store.undo();
  expect(store.getState().design.ladder.stages).toBe(3);
  store.undo();
  expect(store.getState().design.ladder.stages).toBe(2);
  expect(farads(store)).toBe(4.75e-9);
  store.undo();
  expect(farads(store)).toBe(1e-9);
  store.redo();
  expect(farads(store)).toBe(4.75e-9);
});

it('starts a new step after an undo, even in the same field at once', () => {
  const store = createEditorStore(stored());
  store.getState().edit('$.ladder.stages', 5);
  store.undo();
  store.getState().edit('$.ladder.stages', 6);
  store.undo();
  expect(store.getState().design.ladder.stages).toBe(2);
});

it('refuses what the schema refuses, says what would be right, and keeps the last good value', () => {
  const store = createEditorStore(stored());
  expect(store.getState().edit('$.ladder.stages', 2.3)).toMatch(/a whole or half number/);
  expect(store.getState().edit('$.ladder.capacitor.farads', -1)).toMatch(/above zero, in farads/);
  expect(store.getState().design).toEqual(stored().design);
});

it('has nothing to save when an edit ends where it began', () => {
  const store = createEditorStore(stored());
  const { edit, savedDesign } = store.getState();
  edit('$.ladder.stages', 21);
  expect(store.getState().design).not.toBe(savedDesign);
  edit('$.ladder.stages', 2);
  expect(store.getState().design).toBe(savedDesign);
});

it('knows after a save whether edits came meanwhile', () => {
  const store = createEditorStore(stored());
  store.getState().edit('$.ladder.stages', 5);
  const sent = store.getState().design;
  store.getState().edit('$.ladder.stages', 6);
  store.getState().noteSaved({ ...stored(), design: sent, revision: 2 }, sent);
  expect(store.getState()).toMatchObject({ revision: 2, save: { kind: 'pending' } });
  const last = store.getState().design;
  store.getState().noteSaved({ ...stored(), design: last, revision: 3 }, last);
  expect(store.getState().save.kind).toBe('saved');
});
