import type { Drawer, DrawerRequest } from '@/core/drawer/drawer-messages';
import { readPartLine } from '@/core/drawer/part-line';
import type { Part } from '@/core/parts/part-schema';
import { useDrawer } from './drawer-store';

const part = (line: string, digit: number): Part => {
  const read = readPartLine(line, `55555555-5555-4555-8555-55555555555${digit}`);
  if (!read.ok) throw new Error(read.reason);
  return read.part;
};
const disc = part('560p 15kV cer disc x18 @0.55', 1);
const stick = part('diode 12kV 5mA 100ns stick x10', 2);

/** A server that keeps the drawer as the real one does: one change of a revision goes through, a later one is told what stands. */
function serverOf(parts: Part[]) {
  const state = { drawer: drawerOf(parts, 1), down: false, losesAnswer: false, requests: 0 };
  const answer = (body: unknown, status: number) => ({ ok: status < 400, status, json: async () => body }) as Response;
  globalThis.fetch = jest.fn(async (_path: unknown, init?: RequestInit) => {
    if (state.down) throw new TypeError('fetch failed');
    // As slow as a request is, so that two can be under way at once.
    await new Promise((resume) => setTimeout(resume, 1));
    if (init?.method !== 'POST') return answer(state.drawer, 200);
    state.requests += 1;
    const { baseRevision, put, remove } = JSON.parse(init.body as string) as DrawerRequest;
    if (baseRevision !== state.drawer.revision) return answer(state.drawer, 409);
    change(state, put, remove);
    if (state.losesAnswer) {
      state.losesAnswer = false;
      throw new TypeError('connection reset');
    }
    return answer(state.drawer, 200);
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
  useDrawer.setState({ drawer: null, past: [], future: [] });
  await useDrawer.getState().load();
  return server;
}

const counts = () => Object.fromEntries(useDrawer.getState().drawer!.parts.map(({ name, count }) => [name, count]));
const { change: edit, undo, redo } = useDrawer.getState();
const counted = (one: Part, count: number) => ({ put: [{ ...one, count }] });

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

it('where another tab changed the same part, nothing is overwritten and what stands is shown', async () => {
  const server = await opened([disc]);
  change(server, [{ ...disc, count: 1 }], []);
  await expect(edit(counted(disc, 5), 'counting')).rejects.toThrow(/changed elsewhere/);
  expect(counts()).toEqual({ [disc.name]: 1 });
  expect(useDrawer.getState().past).toEqual([]);
  await edit(counted(disc, 5), 'counting again');
  expect(counts()).toEqual({ [disc.name]: 5 });
});

it('a part taken out elsewhere is not brought back by a stale count', async () => {
  const server = await opened([disc]);
  change(server, [], [disc.id]);
  await expect(edit(counted(disc, 5), 'counting')).rejects.toThrow(/changed elsewhere/);
  expect(counts()).toEqual({});
});

it('an answer that got lost had done its work: made again, it is not taken for another’s change', async () => {
  const server = await opened([disc]);
  server.losesAnswer = true;
  await expect(edit(counted(disc, 5), 'counting')).rejects.toThrow(/reset/);
  await edit(counted(disc, 5), 'counting');
  expect([counts(), server.drawer.revision]).toEqual([{ [disc.name]: 5 }, 2]);
});

it('a change that fails is not a step, and the next one is made all the same', async () => {
  const server = await opened([disc]);
  server.down = true;
  const failing = edit(counted(disc, 5), 'counting');
  await expect(failing).rejects.toThrow(/fetch failed/);
  server.down = false;
  await edit(counted(disc, 6), 'counting');
  expect([counts(), useDrawer.getState().past.map(({ what }) => what)]).toEqual([{ [disc.name]: 6 }, ['counting']]);
});

it('a page served from a cache does not bring an older drawer back', async () => {
  await opened([disc]);
  const old = useDrawer.getState().drawer!;
  await edit(counted(disc, 5), 'counting');
  useDrawer.getState().show(old);
  expect(counts()).toEqual({ [disc.name]: 5 });
});
