import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { newDesign } from '@/core/design/new-design';
import { DESIGN_VERSION } from '@/core/design/upgrade';
import { readPartLine } from '@/core/drawer/part-line';
import type { Part } from '@/core/parts/part-schema';
import { createDesign } from '@/server/designs';
import { pool } from '@/server/pool';
import { GET as readPicture, PUT as keepPicture } from './designs/[id]/bench/pictures/[picture]/route';
import { GET as readDocument } from './designs/[id]/document/route';
import { GET as readOne, PATCH as archive, PUT as save } from './designs/[id]/route';
import { GET as readRevisions } from './designs/[id]/revisions/route';
import { GET as readTicks, PUT as keepTicks } from './designs/[id]/ticks/route';
import { POST as create } from './designs/route';
import { handled, troubleAnswer } from './handle';
import { GET as readDrawer, POST as changeDrawer } from './drawer/route';
import { POST as takeOut } from './workshop/route';
import {
  DELETE as dropArchive,
  GET as inspectArchive,
  POST as takeArchive,
  PUT as sendPiece,
} from './workshop/uploads/[id]/route';

// The handlers as requests reach them, on the real throw-away database that ./test starts and migrates.
beforeEach(() => pool().query('TRUNCATE designs, parts CASCADE'));
afterAll(() => pool().end());

const request = (method: string, body?: unknown, query = '') =>
  new Request(`http://localhost/api${query}`, {
    method,
    body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
  });
const of = (id: string) => ({ params: Promise.resolve({ id }) });
const faultsIn = async (response: Response) =>
  ((await response.json()) as { faults: { path: string; message: string }[] }).faults;
const spoil = (id: string) => pool().query(`UPDATE designs SET document = '{"name": "Spoilt"}' WHERE id = $1`, [id]);
const withStages = (stages: number) => ({
  ...newDesign('Asked for'),
  ladder: { ...newDesign('x').ladder, stages },
});

describe('designs', () => {
  it('are created, read, saved and listed by revision', async () => {
    const created = await create(request('POST', withStages(2)));
    expect(created.status).toBe(201);
    const { id, revision } = await created.json();
    expect(revision).toBe(1);
    const saved = await save(request('PUT', { baseRevision: 1, design: withStages(3) }), of(id));
    expect([saved.status, (await saved.json()).revision]).toEqual([200, 2]);
    expect(await (await readOne(request('GET'), of(id))).json()).toMatchObject({
      revision: 2,
      design: { ladder: { stages: 3 } },
    });
    const revisions = await (await readRevisions(request('GET'), of(id))).json();
    expect(revisions.map((one: { revision: number }) => one.revision)).toEqual([2, 1]);
  });
  it('of an older version are taken and kept in the present one', async () => {
    const { capacitor } = newDesign('Old').ladder;
    const old = {
      ...newDesign('Old'),
      version: 1,
      ladder: { ...newDesign('Old').ladder, capacitor: { ...capacitor, dcBiasDerating: undefined, keptAtRating: 0.6 } },
    };
    const { id } = await (await create(request('POST', old))).json();
    expect(await (await readDocument(request('GET'), of(id))).json()).toMatchObject({
      version: DESIGN_VERSION,
      ladder: { capacitor: { dcBiasDerating: 0.6 } },
    });
    const saved = await save(request('PUT', { baseRevision: 1, design: old }), of(id));
    expect(saved.status).toBe(200);
  });
  it('a revision that no database counts to is refused at its field', async () => {
    const { id } = await createDesign(withStages(2));
    for (const baseRevision of [2 ** 31, 1e18, -1, 0.5, null]) {
      const refused = await save(request('PUT', { baseRevision, design: withStages(3) }), of(id));
      expect(refused.status).toBe(422);
      expect((await faultsIn(refused))[0].path).toBe('$.baseRevision');
    }
  });
  it('what stands is told only where it is later than what is known', async () => {
    const { id } = await createDesign(withStages(2));
    const asked = (after: string) => readOne(request('GET', undefined, `?after=${after}`), of(id));
    expect((await asked('1')).status).toBe(204);
    for (const after of ['0', '7', 'x', '']) expect(await (await asked(after)).json()).toMatchObject({ revision: 1 });
  });
  it('trouble of database and disk is told for what it is, and a fault of our own is not hidden', async () => {
    const status = (error: unknown) => troubleAnswer(error)?.status;
    expect(status(Object.assign(new Error('connect'), { code: 'ECONNREFUSED' }))).toBe(503);
    expect(status(Object.assign(new Error('starting up'), { code: '57P03' }))).toBe(503);
    expect(status(Object.assign(new Error('No space left on device'), { code: '53100' }))).toBe(507);
    expect(status(Object.assign(new Error('write'), { code: 'ENOSPC' }))).toBe(507);
    expect(status(Object.assign(new Error('invalid byte sequence'), { code: '22021' }))).toBe(422);
    expect(status(new Error('Connection terminated unexpectedly'))).toBe(503);
    expect(status(new TypeError('x is not a function'))).toBeUndefined();
    await expect(handled(() => Promise.reject(new TypeError('ours')))()).rejects.toThrow('ours');
  });
  it('a save of a revision that no longer stands answers 409 with the one that does, and writes nothing', async () => {
    const { id } = await createDesign(withStages(2));
    await save(request('PUT', { baseRevision: 1, design: withStages(3) }), of(id));
    const late = await save(request('PUT', { baseRevision: 1, design: withStages(9) }), of(id));
    expect(late.status).toBe(409);
    expect(await late.json()).toMatchObject({ revision: 2, design: { ladder: { stages: 3 } } });
  });
  it.each([
    ['a bad field', { ...withStages(2), name: '' }, 422, '$.name'],
    ['no JSON', '{', 400, '$'],
    ['nothing', '', 400, '$'],
    ['too long a text', `"${'x'.repeat(1_000_001)}"`, 413, '$'],
    ['a list', [], 422, '$'],
    ['half of a pair in a text', { ...withStages(2), notes: 'x\uD83D' }, 422, '$.notes'],
    ['the character zero', { ...withStages(2), name: 'a\0b' }, 422, '$.name'],
    ['what is nested very deep', `${'['.repeat(3000)}${']'.repeat(3000)}`, 422, `$${'[0]'.repeat(21)}`],
    [
      'very many fields',
      { ...withStages(2), ...Object.fromEntries(Array.from({ length: 60_000 }, (_, at) => [`f${at}`, 0])) },
      422,
      '$',
    ],
    ['very many items', { ...withStages(2), name: Array.from({ length: 150_000 }, () => 0) }, 422, '$.name'],
  ])('refuse %s, saying where', async (_what, body, status, path) => {
    const response = await create(request('POST', body));
    expect(response.status).toBe(status);
    expect((await faultsIn(response))[0].path).toBe(path);
    expect((await pool().query('SELECT 1 FROM designs')).rowCount).toBe(0);
  });
  it.each(['no-id', randomUUID()])('that are not there answer 404: %s', async (id) => {
    const body = { baseRevision: 1, design: withStages(2) };
    const responses = await Promise.all([
      readOne(request('GET'), of(id)),
      save(request('PUT', body), of(id)),
      archive(request('PATCH', { archived: true }), of(id)),
      readRevisions(request('GET'), of(id)),
      readDocument(request('GET'), of(id)),
    ]);
    expect(responses.map(({ status }) => status)).toEqual([404, 404, 404, 404, 404]);
  });
  it('are archived and brought back', async () => {
    const { id } = await createDesign(withStages(2));
    const away = await (await archive(request('PATCH', { archived: true }), of(id))).json();
    expect(Number.isNaN(Date.parse(away.archivedAt))).toBe(false);
    expect(await (await archive(request('PATCH', { archived: false }), of(id))).json()).toEqual({
      id,
      archivedAt: null,
    });
    expect((await archive(request('PATCH', { archived: 'yes' }), of(id))).status).toBe(422);
  });
});

describe('a design that cannot be read', () => {
  it('answers with its faults, is handed out as stored, and comes back by a save over it', async () => {
    const { id } = await createDesign(withStages(2));
    await spoil(id);
    const read = await readOne(request('GET'), of(id));
    expect(read.status).toBe(422);
    expect((await faultsIn(read)).length).toBeGreaterThan(0);
    const raw = await readDocument(request('GET'), of(id));
    expect(raw.headers.get('content-disposition')).toMatch(/^attachment/);
    expect(await raw.json()).toEqual({ name: 'Spoilt' });
    expect((await archive(request('PATCH', { archived: true }), of(id))).status).toBe(200);
    const over = await save(request('PUT', { baseRevision: 1, design: withStages(4) }), of(id));
    expect(over.status).toBe(200);
    expect((await readOne(request('GET'), of(id))).status).toBe(200);
  });
  it('is no conflict that an editor could take over', async () => {
    const { id } = await createDesign(withStages(2));
    await spoil(id);
    const late = await save(request('PUT', { baseRevision: 5, design: withStages(4) }), of(id));
    expect(late.status).toBe(422);
  });
  it('hands out each revision by its number', async () => {
    const { id } = await createDesign(withStages(2));
    await save(request('PUT', { baseRevision: 1, design: withStages(3) }), of(id));
    const first = await readDocument(request('GET', undefined, '?revision=1'), of(id));
    expect(await first.json()).toMatchObject({ ladder: { stages: 2 } });
    for (const revision of ['3', '0', '-1', 'x', '99999999999'])
      expect((await readDocument(request('GET', undefined, `?revision=${revision}`), of(id))).status).toBe(404);
  });
});

describe('the drawer', () => {
  const part = (name: string, note = ''): Part => {
    const read = readPartLine(`100p 15kV cer ${name} x30`, randomUUID());
    if (!read.ok) throw new Error(read.reason);
    return { ...read.part, note };
  };
  const post = (body: object) => changeDrawer(request('POST', { changeId: randomUUID(), ...body }));
  const revision = async () => (await (await readDrawer(request('GET'))).json()).revision as number;
  it('changes from the revision that it was read at, else answers 409 with what stands', async () => {
    const base = await revision();
    const first = await post({ baseRevision: base, put: [part('one')] });
    expect(first.status).toBe(200);
    const late = await post({ baseRevision: base, put: [part('two')] });
    expect(late.status).toBe(409);
    const standing = await late.json();
    expect(standing.parts.map(({ name }: Part) => name)).toEqual(['one']);
    expect(standing.revision).toBe(base + 1);
  });
  it('hands out what stands later than a revision, and nothing where nothing does', async () => {
    const base = await revision();
    expect((await readDrawer(request('GET', undefined, `?after=${base}`))).status).toBe(204);
    await post({ baseRevision: base, put: [part('one')] });
    const newer = await readDrawer(request('GET', undefined, `?after=${base}`));
    expect(await newer.json()).toMatchObject({ revision: base + 1, parts: [{ name: 'one' }] });
    expect((await readDrawer(request('GET', undefined, '?after=x'))).status).toBe(200);
  });
  it('tells which changes have been made', async () => {
    const [made, other] = [randomUUID(), randomUUID()];
    await post({ baseRevision: await revision(), changeId: made, put: [part('one')] });
    const asked = await readDrawer(request('GET', undefined, `?made=${other},${made},nonsense`));
    expect(await asked.json()).toEqual({ made: [made] });
  });
  it('takes five thousand parts with long notes in one change, and no more', async () => {
    const parts = Array.from({ length: 5000 }, (_, at) => part(`p${at}`, 'n'.repeat(500)));
    const taken = await post({ baseRevision: await revision(), put: parts });
    expect(taken.status).toBe(200);
    expect(await taken.json()).toEqual({ revision: expect.any(Number) });
    expect((await (await readDrawer(request('GET'))).json()).parts).toHaveLength(5000);
    const more = await post({ baseRevision: await revision(), put: [...parts, part('one too many')] });
    expect(more.status).toBe(422);
    expect((await faultsIn(more))[0]).toMatchObject({ path: '$.put', message: expect.stringContaining('5000') });
  });
  it.each([
    ['no revision', { put: [] }, '$.baseRevision'],
    ['a count below zero', { baseRevision: 0, put: [{ ...part('bad'), count: -1 }] }, '$.put[0].count'],
    ['a change without an id', { baseRevision: 0, changeId: 'x' }, '$.changeId'],
    ['an id that is none', { baseRevision: 0, remove: ['x'] }, '$.remove[0]'],
  ])('refuses %s', async (_what, body, path) => {
    const response = await post(body);
    expect(response.status).toBe(422);
    expect((await faultsIn(response))[0].path).toBe(path);
  });
});

describe('pictures', () => {
  const put = (id: string, picture: string, body: Buffer) =>
    keepPicture(new Request('http://localhost/api', { method: 'PUT', body: new Uint8Array(body) }), {
      params: Promise.resolve({ id, picture }),
    });
  const get = (id: string, picture: string) =>
    readPicture(request('GET'), { params: Promise.resolve({ id, picture }) });
  const png = () =>
    sharp({ create: { width: 20, height: 10, channels: 3, background: '#445566' } })
      .png()
      .toBuffer();

  it('are kept under their design, and handed out as pictures', async () => {
    const { id } = await createDesign(newDesign('Seen'));
    const picture = randomUUID();
    expect((await put(id, picture, await png())).status).toBe(200);
    const there = await get(id, picture);
    expect([there.status, there.headers.get('content-type')]).toEqual([200, 'image/jpeg']);
    expect((await sharp(Buffer.from(await there.arrayBuffer())).metadata()).width).toBe(20);
    expect((await get(randomUUID(), picture)).status).toBe(404);
    expect((await get(id, 'x')).status).toBe(404);
  });

  it('are refused where they are none, too large, or of no design', async () => {
    const { id } = await createDesign(newDesign('Not seen'));
    const program = await put(id, randomUUID(), Buffer.from('#!/bin/sh\nrm -r .\n'));
    expect(program.status).toBe(415);
    expect((await faultsIn(program))[0].message).toContain('JPEG');
    expect((await put(id, randomUUID(), Buffer.alloc(17 * 1024 * 1024, 1))).status).toBe(413);
    expect((await put(randomUUID(), randomUUID(), await png())).status).toBe(404);
  });
});

describe('steps done of a build sheet', () => {
  const tick = { revision: 1, step: 'assembly proof', doneAt: '2026-03-01T10:00:00.000Z' };

  it('are kept, told, and taken away', async () => {
    const { id } = await createDesign(withStages(2));
    expect((await keepTicks(request('PUT', [tick]), of(id))).status).toBe(200);
    expect(await (await readTicks(request('GET'), of(id))).json()).toEqual([tick]);
    await keepTicks(request('PUT', [{ ...tick, doneAt: null }]), of(id));
    expect(await (await readTicks(request('GET'), of(id))).json()).toEqual([]);
  });

  it('are refused where they are none, or of no design', async () => {
    const { id } = await createDesign(withStages(2));
    const refused = await keepTicks(request('PUT', [{ ...tick, revision: 0 }]), of(id));
    expect([refused.status, (await faultsIn(refused))[0].path]).toEqual([422, '$[0].revision']);
    expect((await keepTicks(request('PUT', [tick]), of(randomUUID()))).status).toBe(404);
    expect((await readTicks(request('GET'), of('1'))).status).toBe(404);
  });
});

describe('a workshop’s archive', () => {
  const piece = (id: string, bytes: Uint8Array, at: number) =>
    sendPiece(new Request(`http://localhost/api?at=${at}`, { method: 'PUT', body: Buffer.from(bytes) }), of(id));
  const archive = async () => new Uint8Array(await (await takeOut(request('POST', { meters: [] }))).arrayBuffer());

  it('leaves, is sent in pieces, inspected, and taken', async () => {
    const { id: design } = await createDesign(withStages(2));
    const bytes = await archive();
    await pool().query('TRUNCATE designs CASCADE');
    const id = randomUUID();
    const half = Math.floor(bytes.length / 2);
    expect(await (await piece(id, bytes.subarray(0, half), 0)).json()).toEqual({ bytes: half });
    // The same again, its answer lost, is not put behind it once more.
    expect(await (await piece(id, bytes.subarray(0, half), 0)).json()).toEqual({ bytes: half });
    expect(await (await piece(id, bytes.subarray(half), half)).json()).toEqual({ bytes: bytes.length });
    const { contents, seen } = await (await inspectArchive(request('GET'), of(id))).json();
    expect(contents.designs.fresh).toEqual([{ id: design, name: 'Asked for' }]);
    const decisions = { designs: 'here', parts: 'here' };
    const otherwise = await takeArchive(request('POST', { decisions, seen: '0'.repeat(64) }), of(id));
    expect([otherwise.status, (await otherwise.json()).seen]).toEqual([409, seen]);
    expect((await takeArchive(request('POST', { decisions, seen }), of(id))).status).toBe(200);
    expect((await readOne(request('GET'), of(design))).status).toBe(200);
    // It is not kept any longer than it is needed.
    expect((await inspectArchive(request('GET'), of(id))).status).toBe(404);
  });

  it('is refused with its faults, and dropped', async () => {
    const id = randomUUID();
    await piece(id, new Uint8Array([1, 2, 3]), 0);
    const refused = await inspectArchive(request('GET'), of(id));
    expect([refused.status, (await faultsIn(refused))[0].path]).toEqual([422, '$']);
    await dropArchive(request('DELETE'), of(id));
    expect((await inspectArchive(request('GET'), of(id))).status).toBe(404);
    expect((await piece('no-id', new Uint8Array([1]), 0)).status).toBe(404);
    expect((await piece(id, new Uint8Array(5 * 1024 * 1024), 0)).status).toBe(413);
    expect((await piece(id, new Uint8Array([1]), 4e9)).status).toBe(413);
    expect((await takeOut(request('POST', { meters: 'all' }))).status).toBe(422);
    const wrong = await takeArchive(
      request('POST', { decisions: { designs: 'theirs', parts: 'here' }, seen: 'x' }),
      of(id),
    );
    expect((await faultsIn(wrong)).map(({ path }) => path)).toEqual(['$.decisions.designs', '$.seen']);
  });
});
