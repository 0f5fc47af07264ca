import 'fake-indexeddb/auto';
import type { Drawer, DrawerRequest } from '@/core/drawer/drawer-messages';
import { readPartLine } from '@/core/drawer/part-line';
import type { Part } from '@/core/parts/part-schema';
import { useDrawer } from './drawer-store';
import { unsavedDrawer } from './unsaved';

const part = (line: string, digit: number): Part => {
  const read = readPartLine(line, `55555555-5555-4555-8555-55555555555${digit}`);
  if (!read.ok) throw new Error(read.reason);
  return read.part;
};
const disc = part('560p 15kV cer disc x18 @0.55', 1);
const stick = part('diode 12kV 5mA 100ns stick x10', 2);

/** A server that keeps the drawer as the real one does: one change of a revision goes through, once; a later one is told what stands. */
function serverOf(parts: Part[]) {
  const state = { drawer: drawerOf(parts, 1), down: false, losesAnswer: false, requests: 0 };
  const made = new Set<string>();
  const answer = (body: unknown, status: number) => ({ ok: status < 400, status, json: async () => body }) as Response;
  globalThis.fetch = jest.fn(async (path: unknown, init?: RequestInit) => {
    if (state.down) throw new TypeError('fetch failed');
    // As slow as a request is, so that two can be under way at once.
    await new Promise((resume) => setTimeout(resume, 1));
    if (init?.method !== 'POST') {
      const after = /after=(\d+)/.exec(String(path))?.[1];
      return after && state.drawer.revision <= Number(after) ? answer(null, 204) : answer(state.drawer, 200);
    }
    state.requests += 1;
    const { baseRevision, changeId, put, remove } = JSON.parse(init.body as string) as DrawerRequest;
    if (made.has(changeId)) return answer(state.drawer, 200);
    if (baseRevision !== state.drawer.revision) return answer(state.drawer, 409);
    change(state, put, remove);
    made.add(changeId);
    if (state.losesAnswer) {
      state.losesAnswer = false;
      throw new TypeError('connection reset');
    }
    return answer({ revision: state.drawer.revision }, 200);
  });
  return state;
}

const drawerOf = (parts: Part[], revision: number): Drawer => ({
  revision,
  parts,
  damaged: [],
  uses: [],
  unreadDesigns: 0,
});

function change(state: { drawer: Drawer }, put: Part[], remove: string[]): void {
  const gone = new Set([...remove, ...put.map(({ id }) => id)]);
  const parts = [...state.drawer.parts.filter(({ id }) => !gone.has(id)), ...put];
  state.drawer = drawerOf(parts, state.drawer.revision + 1);
}

/** The page's drawer, as it was served. */
async function opened(parts: Part[]) {
  const server = serverOf(parts);
  useDrawer.setState({ drawer: null, first: null, served: null, waiting: [], trouble: null, past: [], future: [] });
  await useDrawer.getState().load();
  return server;
}

/** The browser's database writes on its own. */
const written = () => new Promise((resume) => setTimeout(resume, 50));
const counts = () => Object.fromEntries(useDrawer.getState().drawer!.parts.map(({ name, count }) => [name, count]));
const { change: edit, undo, redo, send, take, isKept } = useDrawer.getState();
const counted = (one: Part, count: number) => ({ put: [{ ...one, count }] });

it('follows what others change, and keeps out of the way of what is being sent', async () => {
  const server = await opened([disc]);
  const { follow } = useDrawer.getState();
  expect(await follow()).toBe(false);
  change(server, [stick], []);
  expect(await follow()).toBe(true);
  expect(counts()).toEqual({ [disc.name]: 18, [stick.name]: 10 });
  expect(await follow()).toBe(false);

  // Both at once: what was sent counts, and is not taken for somebody else's.
  const [followed] = await Promise.all([follow(), edit(counted(disc, 3), 'counting discs')]);
  expect(followed).toBe(false);
  expect(counts()).toEqual({ [disc.name]: 3, [stick.name]: 10 });
  expect(useDrawer.getState().served!.revision).toBe(server.drawer.revision);
});

it('takes changes of the first parts while the rest is fetched, and keeps the objects of those', async () => {
  const server = await opened([disc, stick]);
  useDrawer.setState({ drawer: null, served: null });
  server.down = true;
  const { loadFrom, whole } = useDrawer.getState();
  const first = drawerOf([disc], 1);
  const loaded = loadFrom(first);
  await edit(counted(disc, 3), 'counting discs');
  expect(useDrawer.getState()).toMatchObject({ drawer: null, waiting: [{ what: 'counting discs' }] });
  server.down = false;
  await send();
  await loaded;
  expect(counts()).toEqual({ [disc.name]: 3, [stick.name]: 10 });
  expect(server.drawer.parts.map(({ count }) => count).sort()).toEqual([10, 3]);
  expect(await undo()).toBe('counting discs');
  expect((await whole()).parts.map(({ count }) => count)).toEqual([18, 10]);

  useDrawer.setState({ drawer: null, served: null });
  await loadFrom(drawerOf([...server.drawer.parts.slice(0, 1)], 3));
  const [same] = useDrawer.getState().first!.parts;
  expect((await whole()).parts.some((part) => part === same)).toBe(true);
});

it('two quick undos take back the later change, then the earlier', async () => {
  const server = await opened([disc, stick]);
  await edit(counted(disc, 3), 'counting discs');
  await edit(counted(stick, 4), 'counting sticks');
  const undone = await Promise.all([undo(), undo()]);
  expect(undone).toEqual(['counting sticks', 'counting discs']);
  expect(server.drawer.parts.map(({ count }) => count).sort()).toEqual([10, 18]);
  expect(useDrawer.getState().past).toEqual([]);
  expect(await Promise.all([redo(), redo(), redo()])).toEqual(['counting discs', 'counting sticks', null]);
  expect(counts()).toEqual({ [disc.name]: 3, [stick.name]: 4 });
});

it('changes made in one go all count, each from the state before it', async () => {
  await opened([disc]);
  await Promise.all([edit(counted(disc, 1), 'one'), edit(counted(disc, 2), 'two'), edit({ put: [stick] }, 'three')]);
  expect(counts()).toEqual({ [disc.name]: 2, [stick.name]: 10 });
  await undo();
  await undo();
  expect(counts()).toEqual({ [disc.name]: 1 });
});

it('undoes putting in, replacing and taking out of several parts in one step', async () => {
  await opened([disc]);
  await edit({ put: [{ ...disc, count: 0 }, stick] }, 'importing');
  await edit({ remove: [disc.id, stick.id] }, 'emptying');
  expect(counts()).toEqual({});
  await undo();
  expect(counts()).toEqual({ [disc.name]: 0, [stick.name]: 10 });
  await undo();
  expect(counts()).toEqual({ [disc.name]: 18 });
});

it('a new change leaves nothing to redo', async () => {
  await opened([disc]);
  await edit(counted(disc, 1), 'one');
  await undo();
  await edit(counted(disc, 2), 'two');
  expect(await redo()).toBeNull();
  expect(counts()).toEqual({ [disc.name]: 2 });
});

it('where another tab changed another part, both changes stand', async () => {
  const server = await opened([disc, stick]);
  change(server, [{ ...stick, count: 1 }], []);
  await edit(counted(disc, 5), 'counting');
  expect(counts()).toEqual({ [disc.name]: 5, [stick.name]: 1 });
});

it('where another tab counted the same part, the counts add up; undone, its share stands', async () => {
  const server = await opened([disc]);
  change(server, [{ ...disc, count: 17, price: 9 }], []);
  await edit(counted(disc, 5), 'counting');
  expect(server.drawer.parts).toEqual([{ ...disc, count: 4, price: 9 }]);
  await undo();
  expect(server.drawer.parts).toEqual([{ ...disc, count: 17, price: 9 }]);
});

it('where another tab wrote the same field, nothing is overwritten and what stands is shown', async () => {
  const server = await opened([disc]);
  change(server, [{ ...disc, note: 'theirs' }], []);
  await expect(edit({ put: [{ ...disc, note: 'mine' }] }, 'noting')).rejects.toThrow(/changed elsewhere/);
  const { drawer, past, waiting } = useDrawer.getState();
  expect([drawer!.parts[0].note, past, waiting]).toEqual(['theirs', [], []]);
});

it('a part taken out elsewhere is not brought back by a stale count', async () => {
  const server = await opened([disc]);
  change(server, [], [disc.id]);
  await expect(edit(counted(disc, 5), 'counting')).rejects.toThrow(/changed elsewhere/);
  expect(counts()).toEqual({});
});

it('an answer that got lost had done its work: sent again, it is not made twice', async () => {
  const server = await opened([disc]);
  server.losesAnswer = true;
  await edit(counted(disc, 5), 'counting');
  expect(useDrawer.getState().trouble).toMatch(/cannot be reached/);
  change(server, [{ ...disc, count: 4 }], []);
  await send();
  expect([counts(), server.drawer.revision]).toEqual([{ [disc.name]: 4 }, 3]);
});

it('without a server changes stand here, are kept in the browser, undone, and sent in their order once it is back', async () => {
  const server = await opened([disc, stick]);
  server.down = true;
  await edit(counted(disc, 5), 'counting discs');
  await edit({ remove: [stick.id] }, 'taking out');
  await edit(counted(disc, 6), 'counting again');
  expect(await undo()).toBe('counting again');
  expect(counts()).toEqual({ [disc.name]: 5 });
  await written();
  const [left] = await unsavedDrawer.findLeft();
  expect([isKept(), left.steps.map(({ what }) => what)]).toEqual([
    true,
    ['counting discs', 'taking out', 'counting again', 'counting again'],
  ]);
  server.down = false;
  change(server, [{ ...disc, count: 17 }], []);
  await send();
  expect(server.drawer.parts).toEqual([{ ...disc, count: 4 }]);
  expect([counts(), useDrawer.getState().waiting, useDrawer.getState().trouble]).toEqual([
    { [disc.name]: 4 },
    [],
    null,
  ]);
  await written();
  expect(await unsavedDrawer.findLeft()).toEqual([]);

  // What a page has left is made by another, and what arrived after all is not made again.
  await take(left.steps);
  expect(server.drawer.parts).toEqual([{ ...disc, count: 4 }]);
});

it('rows that cannot be read are taken out for good', async () => {
  const server = await opened([disc]);
  await edit({ remove: [stick.id] }, 'taking out');
  expect(server.requests).toBe(1);
  expect(await undo()).toBeNull();
});

it('a page served from a cache does not bring an older drawer back', async () => {
  await opened([disc]);
  const old = useDrawer.getState().drawer!;
  await edit(counted(disc, 5), 'counting');
  useDrawer.getState().show(old);
  expect(counts()).toEqual({ [disc.name]: 5 });
});
