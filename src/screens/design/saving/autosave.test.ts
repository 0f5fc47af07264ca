import { newDesign } from '@/core/design/new-design';
import type { StoredDesign } from '@/core/design/design-messages';
import type { Design } from '@/core/design/design-schema';
import { autosave, QUIET_MILLISECONDS, RETRY_MILLISECONDS } from './autosave';
import { createEditorStore } from './editor-store';

const stored = (design: Design, revision: number): StoredDesign => ({
  id: 'x',
  design,
  revision,
  savedAt: `2026-01-01T00:00:${String(revision).padStart(2, '0')}Z`,
  archivedAt: null,
});

/** A server that keeps revisions as the real one does, and can be cut off, slowed or made to lose its answers. */
function serverOf(first: Design) {
  const state = { standing: stored(first, 1), down: false, losesAnswers: false, saves: 0, keepalive: 0 };
  return {
    state,
    async saveDesign(_id: string, baseRevision: number, design: Design, keepalive = false) {
      if (state.down) throw new TypeError('fetch failed');
      state.saves += 1;
      if (keepalive) state.keepalive += 1;
      const conflict = baseRevision !== state.standing.revision;
      if (!conflict) state.standing = stored(design, baseRevision + 1);
      if (state.losesAnswers) throw new TypeError('connection reset');
      return { conflict, stored: state.standing };
    },
    async fetchNewer() {
      if (state.down) throw new TypeError('fetch failed');
      return state.standing;
    },
  };
}

const begun = () => {
  const design = newDesign('Saved by itself');
  const server = serverOf(design);
  const store = createEditorStore(stored(design, 1));
  const saver = autosave(store, server, { reasonOf: () => 'cannot be reached' });
  return { server: server.state, store, saver, end: saver.begin(), edit: store.getState().edit };
};

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());
const pass = (milliseconds: number) => jest.advanceTimersByTimeAsync(milliseconds);

it('saves once after a burst of keystrokes, and not before it has ended', async () => {
  const { server, store, edit } = begun();
  for (const stages of [3, 4, 5]) {
    edit('$.ladder.stages', stages);
    await pass(QUIET_MILLISECONDS - 1);
  }
  expect([server.saves, store.getState().save.kind]).toEqual([0, 'pending']);
  await pass(1);
  expect(server.saves).toBe(1);
  expect(server.standing.design.ladder.stages).toBe(5);
  expect(store.getState()).toMatchObject({ revision: 2, save: { kind: 'saved' } });
});

it('sends what was typed while a save was under way in the next one', async () => {
  const { server, store, saver, edit } = begun();
  edit('$.ladder.stages', 3);
  const saving = saver.saveNow();
  edit('$.ladder.stages', 4);
  await saving;
  expect(store.getState().save.kind).toBe('pending');
  await pass(QUIET_MILLISECONDS);
  expect([server.saves, server.standing.revision, server.standing.design.ladder.stages]).toEqual([2, 3, 4]);
});

it('keeps edits while the server is away, says so, and saves them when it is back', async () => {
  const { server, store, edit } = begun();
  server.down = true;
  edit('$.ladder.stages', 6);
  await pass(QUIET_MILLISECONDS);
  expect(store.getState().save).toEqual({ kind: 'failed', reason: 'cannot be reached' });
  expect(store.getState().design.ladder.stages).toBe(6);
  server.down = false;
  await pass(RETRY_MILLISECONDS);
  expect(server.standing.design.ladder.stages).toBe(6);
  expect(store.getState().save.kind).toBe('saved');
});

it('does not take its own design, whose answer got lost, for another’s', async () => {
  const { server, store, edit } = begun();
  server.losesAnswers = true;
  edit('$.ladder.stages', 7);
  await pass(QUIET_MILLISECONDS);
  expect(store.getState().save.kind).toBe('failed');
  server.losesAnswers = false;
  await pass(RETRY_MILLISECONDS);
  expect(store.getState()).toMatchObject({ revision: 2, save: { kind: 'saved' } });
});

it('stops at another’s revision until one is chosen, and overwrites nothing', async () => {
  const { server, store, edit } = begun();
  const { design } = server.standing;
  const theirs = { ...design, ladder: { ...design.ladder, stages: 3 } };
  server.standing = stored(theirs, 2);
  edit('$.ladder.stages', 8);
  await pass(QUIET_MILLISECONDS);
  expect(store.getState().save).toMatchObject({ kind: 'conflict', theirs: { revision: 2 } });
  edit('$.ladder.stages', 9);
  await pass(10 * QUIET_MILLISECONDS);
  expect(server.standing.design).toBe(theirs);
  expect(store.getState().design.ladder.stages).toBe(9);
});

it('joins what another saved of other fields with what was typed here, and saves both', async () => {
  const { server, store, edit } = begun();
  const { design } = server.standing;
  server.standing = stored({ ...design, notes: 'theirs' }, 2);
  edit('$.ladder.stages', 8);
  await pass(QUIET_MILLISECONDS);
  expect(store.getState()).toMatchObject({ revision: 2, save: { kind: 'pending' } });
  await pass(QUIET_MILLISECONDS);
  expect(server.standing).toMatchObject({ revision: 3, design: { notes: 'theirs', ladder: { stages: 8 } } });
  expect(store.getState()).toMatchObject({
    save: { kind: 'saved' },
    design: { notes: 'theirs', ladder: { stages: 8 } },
  });
});

it('joins what is typed on while the save is under way that finds another’s revision', async () => {
  const { server, store, saver, edit } = begun();
  const { design } = server.standing;
  server.standing = stored({ ...design, notes: 'theirs' }, 2);
  edit('$.ladder.stages', 8);
  const saving = saver.saveNow();
  edit('$.ladder.strayFarads', 3e-12);
  await saving;
  await pass(2 * QUIET_MILLISECONDS);
  expect(server.standing.design).toMatchObject({ notes: 'theirs', ladder: { stages: 8, strayFarads: 3e-12 } });
  expect(store.getState().save.kind).toBe('saved');
});

it('has nothing to send once an edit is undone, and says saved again', async () => {
  const { server, store, edit } = begun();
  edit('$.ladder.stages', 9);
  store.undo();
  expect(store.getState().save.kind).toBe('saved');
  await pass(10 * QUIET_MILLISECONDS);
  expect(server.saves).toBe(0);
});

it('sends the rest when the page is left, and nothing where nothing is left', () => {
  const { server, saver, edit } = begun();
  saver.saveOnLeaving();
  expect(server.saves).toBe(0);
  edit('$.ladder.stages', 9);
  saver.saveOnLeaving();
  expect([server.saves, server.keepalive]).toEqual([1, 1]);
});

it('takes over what another tab saved only where nothing here would be lost', async () => {
  const { server, store, saver, edit } = begun();
  expect(await saver.lookForNewer()).toBe(false);
  server.standing = stored(newDesign('Newer'), 4);
  expect(await saver.lookForNewer()).toBe(true);
  expect(store.getState()).toMatchObject({ revision: 4, design: { name: 'Newer' }, save: { kind: 'saved' } });
  server.standing = stored(newDesign('Newer still'), 5);
  edit('$.ladder.stages', 9);
  expect(await saver.lookForNewer()).toBe(false);
  expect(store.getState().design.name).toBe('Newer');
  server.down = true;
  expect(await saver.lookForNewer()).toBe(false);
});

it('ends with the screen', async () => {
  const { server, end, edit } = begun();
  end();
  edit('$.ladder.stages', 9);
  await pass(10 * QUIET_MILLISECONDS);
  expect(server.saves).toBe(0);
});
