import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { buffer } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import * as yauzl from 'yauzl';
import { ZipFile } from 'yazl';
import sharp from 'sharp';
import type { Entry } from '@/core/bench/entries';
import { sessionSchema, type SessionReadings } from '@/core/bench/session';
import { beginRun, type DeadRun } from '@/core/dead/run';
import { newDesign } from '@/core/design/new-design';
import { meterSchema } from '@/core/drive/meter-sense';
import { lowSourceSchema } from '@/core/bench/low-source';
import { partSchema } from '@/core/parts/part-schema';
import { designMember, DRAWER, MANIFEST, METERS, pictureMember, UNREAD } from '@/core/workshop/archive';
import type { Decisions } from '@/core/workshop/messages';
import { keepReadings, listSessions } from '../bench';
import { createDesign, findDesign, listRevisions, saveDesign, setArchived } from '../designs';
import { keepDischarge, listDischarges } from '../discharges';
import { drawerText, changeDrawer, standingRevision } from '../drawer';
import { asKept, findPicture, keepPicture } from '../pictures';
import { pool } from '../pool';
import { keepTicks, listTicks } from '../ticks';
import { inspectArchive, SeenOtherwise, takeArchive } from './archive-in';
import { holdings, writeArchive } from './archive-out';

// Against the real throw-away database that ./test starts and migrates.
const empty = () => pool().query('TRUNCATE designs, parts CASCADE');
beforeEach(empty);
afterAll(() => pool().end());

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'eager-ladder-workshop-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const METERS_HERE = { meters: [{ name: 'Old hand', meter: meterSchema.parse({ inputOhms: 1e6 }) }] };
const MINE: Decisions = { designs: 'here', parts: 'here' };
const never = new AbortController().signal;

async function out(): Promise<Buffer> {
  return buffer(writeArchive(METERS_HERE));
}

async function fileOf(bytes: Buffer): Promise<string> {
  const file = path.join(folder, `${randomUUID()}.zip`);
  await writeFile(file, bytes);
  return file;
}

const look = async (bytes: Buffer) => inspectArchive(await fileOf(bytes), never);
async function take(bytes: Buffer, decisions: Decisions = MINE) {
  const { seen } = await look(bytes);
  return takeArchive(await fileOf(bytes), decisions, seen, never);
}
const faultsOf = async (work: Promise<unknown>): Promise<{ path: string; message: string }[]> => {
  const error = await work.then(
    () => null,
    (reason: unknown) => reason,
  );
  return (error as { faults: { path: string; message: string }[] }).faults;
};

/** Every member of an archive, unpacked by the library alone. */
async function membersOf(bytes: Buffer): Promise<Map<string, Buffer>> {
  const zip = await yauzl.fromBufferPromise(bytes, { lazyEntries: true });
  const members = new Map<string, Buffer>();
  for await (const entry of zip.eachEntry())
    members.set(entry.fileName, await buffer(await zip.openReadStreamPromise(entry)));
  return members;
}

/** An archive of these members, its manifest saying what they are unless it is given. */
async function packed(members: ReadonlyMap<string, Buffer>, manifest?: object): Promise<Buffer> {
  const zip = new ZipFile();
  const named = [...members].filter(([name]) => name !== MANIFEST);
  for (const [name, bytes] of named) zip.addBuffer(bytes, name);
  const told = named.map(([name, bytes]) => ({
    path: name,
    bytes: bytes.length,
    sha256: createHash('sha256').update(bytes).digest('hex'),
  }));
  const whole = manifest ?? { format: 'eager-ladder/workshop', version: 1, members: told };
  zip.addBuffer(Buffer.from(JSON.stringify(whole)), MANIFEST);
  zip.end();
  const file = path.join(folder, `${randomUUID()}.zip`);
  await pipeline(zip.outputStream, createWriteStream(file));
  return readFile(file);
}

/** The archive with one member changed as a document. */
async function edited(bytes: Buffer, member: string, edit: (document: never) => void): Promise<Buffer> {
  const members = await membersOf(bytes);
  const document = JSON.parse(members.get(member)!.toString()) as never;
  edit(document);
  return packed(members.set(member, Buffer.from(JSON.stringify(document))));
}

const session = (revision: number): SessionReadings['session'] =>
  sessionSchema.parse({
    id: randomUUID(),
    revision,
    startedAt: '2026-03-01T10:00:00.000Z',
    source: lowSourceSchema.parse({ kind: 'turned-down' }),
    meter: meterSchema.parse({}),
    note: 'dry air',
  });
const entry = (changes: Partial<Entry> = {}): Entry =>
  ({
    id: randomUUID(),
    takenAt: '2026-03-01T10:01:00.000Z',
    kind: 'tap',
    at: 'B1',
    value: 12.5,
    remark: '',
    pictureId: null,
    replaces: null,
    expected: null,
    meter: null,
    sinceOnSeconds: null,
    heldSeconds: null,
    ...changes,
  }) as Entry;
const run = (revision: number): DeadRun =>
  beginRun(
    { limitVolts: 60, steps: [{ id: 'off', title: 'Off', text: 'Off', seconds: null, reading: null }] } as never,
    randomUUID(),
    revision,
    '2026-03-02T10:00:00.000Z',
  );
const tick = (revision: number, step: string) => ({ revision, step, doneAt: '2026-03-03T10:00:00.000Z' });
const part = (name: string, changes: object = {}) =>
  partSchema.parse({ kind: 'capacitor', id: randomUUID(), name, count: 12, price: 0.35, farads: 1e-9, ...changes });
const picture = async (shade: string) =>
  (await asKept(
    await sharp({ create: { width: 64, height: 48, channels: 3, background: shade } })
      .png()
      .toBuffer(),
  ))!;

const put = async (...parts: ReturnType<typeof part>[]) =>
  changeDrawer({ baseRevision: await standingRevision(), changeId: randomUUID(), put: parts, remove: [] });

/** Two designs with histories, one of them put away, measured, built and made dead, and a drawer. */
async function workshop() {
  const first = await createDesign(newDesign('Bias supply'));
  await saveDesign(first.id, 1, { ...newDesign('Bias supply'), notes: 'more µF' });
  await saveDesign(first.id, 2, { ...newDesign('Bias supply'), notes: 'less' });
  const second = await createDesign(newDesign('Put away'));
  const shown = randomUUID();
  await keepPicture(second.id, shown, await picture('#884422'));
  const measured = session(1);
  const wrong = entry({ value: 1.25, pictureId: shown });
  const right = entry({ replaces: wrong.id, takenAt: '2026-03-01T10:02:00.000Z' });
  await keepReadings(second.id, { session: measured, readings: [wrong, right] });
  const made = run(1);
  await keepDischarge(second.id, made);
  await setArchived(second.id, true);
  await keepTicks(first.id, [tick(2, 'assembly a'), tick(3, 'assembly b')]);
  const parts = [part('Disc 1 nF'), part('Film 10 nF', { farads: 1e-8, price: null })];
  await put(...parts);
  return { first, second, shown, measured, wrong, right, made, parts };
}

it('a workshop leaves, comes back into an empty database, and leaves again byte for byte', async () => {
  const { first, second, shown, measured, right, made, parts } = await workshop();
  const before = await out();
  expect(before.equals(await out())).toBe(true);
  const held = await holdings();
  expect(held).toMatchObject({
    designs: 2,
    revisions: 4,
    parts: 2,
    sessions: 1,
    readings: 2,
    discharges: 1,
    pictures: 1,
  });
  const jpeg = await findPicture(second.id, shown);
  await empty();
  const told = await take(before);
  expect(told).toMatchObject({
    designs: { revisions: 4, same: 0, later: [], clashing: [] },
    parts: { fresh: 2, same: 0, clashing: [] },
    records: { sessions: 1, readings: 2, discharges: 1, ticks: 2, pictures: 1 },
    differingRecords: 0,
    unread: 0,
    meters: METERS_HERE.meters,
  });
  expect(told.designs.fresh.map(({ name }) => name).sort()).toEqual(['Bias supply', 'Put away']);
  expect((await out()).equals(before)).toBe(true);
  expect(await holdings()).toEqual(held);
  // And it is there as the application reads it.
  expect((await listRevisions(first.id)).map(({ revision }) => revision)).toEqual([3, 2, 1]);
  expect(await findDesign(second.id)).toMatchObject({ revision: 1, archivedAt: expect.any(String) });
  expect(await listSessions(second.id)).toMatchObject([{ session: measured, readings: [{}, right] }]);
  expect(await listDischarges(second.id)).toEqual([made]);
  expect(await listTicks(first.id)).toEqual([tick(2, 'assembly a'), tick(3, 'assembly b')]);
  expect(await findPicture(second.id, shown)).toEqual(jpeg);
  expect(JSON.parse(await drawerText()).parts).toEqual(parts);
  // Once more changes nothing.
  expect(await take(before)).toMatchObject({
    designs: { fresh: [], revisions: 0, same: 2 },
    parts: { fresh: 0, same: 2, clashing: [] },
    records: { sessions: 0, readings: 0, discharges: 0, ticks: 0, pictures: 0 },
    differingRecords: 0,
  });
  expect((await out()).equals(before)).toBe(true);
});

it('two ticks of one step are one', async () => {
  const { first } = await workshop();
  const archive = await edited(await out(), designMember(first.id, 'ticks'), (ticks: object[]) => {
    ticks.push({ ...tick(2, 'assembly a'), doneAt: '2026-03-05T10:00:00.000Z' });
  });
  await empty();
  await take(archive);
  expect(await listTicks(first.id)).toContainEqual({ ...tick(2, 'assembly a'), doneAt: '2026-03-05T10:00:00.000Z' });
  expect(await listTicks(first.id)).toHaveLength(2);
});

it('an empty workshop leaves and comes back as well', async () => {
  const before = await out();
  expect([...(await membersOf(before)).keys()]).toEqual([METERS, DRAWER, MANIFEST]);
  expect(await take(before)).toMatchObject({ designs: { fresh: [] }, parts: { fresh: 0 } });
});

it('a design goes on where it ended; an older archive takes nothing back', async () => {
  const { first } = await workshop();
  const early = await out();
  await saveDesign(first.id, 3, { ...newDesign('Bias supply'), notes: 'last' });
  const late = await out();
  expect((await look(early)).contents.designs).toMatchObject({ same: 2, later: [], clashing: [] });
  await take(early);
  expect((await out()).equals(late)).toBe(true);
  await empty();
  await take(early);
  expect((await look(late)).contents.designs).toMatchObject({
    later: [{ id: first.id, name: 'Bias supply' }],
    same: 1,
  });
  await take(late);
  expect((await out()).equals(late)).toBe(true);
});

describe('two that went on apart', () => {
  const apart = async () => {
    const there = await workshop();
    await saveDesign(there.first.id, 3, { ...newDesign('In the archive'), notes: 'there' });
    await keepReadings(there.first.id, { session: session(4), readings: [entry({ value: 1 })] });
    await put({ ...there.parts[0], count: 99 });
    const archive = await out();
    await empty();
    await take(archive);
    // Back to before, and on another way.
    await pool().query('DELETE FROM bench_sessions WHERE design_id = $1', [there.first.id]);
    await pool().query('DELETE FROM design_revisions WHERE design_id = $1 AND revision = 4', [there.first.id]);
    await pool().query(
      `UPDATE designs SET revision = 3, document = (SELECT document FROM design_revisions
         WHERE design_id = $1 AND revision = 3) WHERE id = $1`,
      [there.first.id],
    );
    await saveDesign(there.first.id, 3, { ...newDesign('Here'), notes: 'here' });
    await put({ ...there.parts[0], count: 3 });
    return { ...there, archive };
  };

  it('are told before anything is taken, and what is here stays unless it is said otherwise', async () => {
    const { first, parts, archive } = await apart();
    const here = await out();
    const { contents } = await look(archive);
    expect(contents.designs.clashing).toMatchObject([
      { id: first.id, name: 'In the archive', hereName: 'Here', hereRevision: 4, revision: 4 },
    ]);
    expect(contents.parts.clashing).toEqual([
      { id: parts[0].id, name: 'Disc 1 nF', count: 99, hereName: 'Disc 1 nF', hereCount: 3 },
    ]);
    expect(contents.records.sessions).toBe(0);
    expect((await out()).equals(here)).toBe(true);
    await take(archive, MINE);
    expect((await out()).equals(here)).toBe(true);
  });

  it('the archive’s stands beside as a design of its own, with all that belongs to it', async () => {
    const { first, archive } = await apart();
    await take(archive, { designs: 'both', parts: 'archive' });
    const { rows } = await pool().query<{ id: string; name: string; revision: number }>(
      'SELECT id, name, revision FROM designs WHERE archived_at IS NULL ORDER BY name',
    );
    expect(rows).toMatchObject([
      { id: first.id, name: 'Here', revision: 4 },
      { name: 'In the archive, from an archive', revision: 5 },
    ]);
    const [, copy] = rows;
    expect((await listRevisions(copy.id)).map(({ revision }) => revision)).toEqual([5, 4, 3, 2, 1]);
    expect(await listSessions(copy.id)).toMatchObject([{ readings: [{ value: 1 }] }]);
    expect(await listSessions(first.id)).toEqual([]);
    expect(await listTicks(copy.id)).toEqual([tick(2, 'assembly a'), tick(3, 'assembly b')]);
    expect(JSON.parse(await drawerText()).parts).toMatchObject([{ count: 99 }, { count: 12 }]);
  });

  it('nothing is taken that was not seen', async () => {
    const { archive, first } = await apart();
    const { seen } = await look(archive);
    await saveDesign(first.id, 4, { ...newDesign('Here'), notes: 'here and now' });
    const here = await out();
    const taking = takeArchive(await fileOf(archive), { designs: 'both', parts: 'archive' }, seen, never);
    await expect(taking).rejects.toBeInstanceOf(SeenOtherwise);
    expect((await out()).equals(here)).toBe(true);
  });
});

it('a copy’s records refer to each other as they did, its picture with them', async () => {
  const { second, archive } = await (async () => {
    const there = await workshop();
    const archive = await out();
    await saveDesign(there.second.id, 1, newDesign('On its own way'));
    const changed = await edited(
      archive,
      designMember(there.second.id, 'design'),
      (document: { revisions: object[] }) => {
        document.revisions.push({
          revision: 2,
          savedAt: '2026-04-01T10:00:00.000Z',
          document: newDesign('On another'),
        });
      },
    );
    return { ...there, archive: changed };
  })();
  await take(archive, { designs: 'both', parts: 'here' });
  const { rows } = await pool().query<{ id: string }>(`SELECT id FROM designs WHERE name LIKE 'On another%'`);
  const [{ readings }] = await listSessions(rows[0].id);
  const [wrong, right] = readings;
  expect(right.replaces).toBe(wrong.id);
  expect(await findPicture(rows[0].id, wrong.pictureId!)).not.toBeNull();
  const [{ readings: before }] = await listSessions(second.id);
  expect(before.map(({ id }) => id)).not.toContain(wrong.id);
});

it('records that are missing here come, those of the same id with another content stay as they are here', async () => {
  const { second, measured, right } = await workshop();
  const archive = await out();
  await pool().query(`UPDATE bench_readings SET record = record || '{"value": 7}' WHERE id = $1`, [right.id]);
  await pool().query('DELETE FROM bench_readings WHERE id <> $1', [right.id]);
  await pool().query('DELETE FROM discharges');
  await pool().query('DELETE FROM bench_pictures');
  const { contents } = await look(archive);
  expect(contents).toMatchObject({
    records: { sessions: 0, readings: 1, discharges: 1, ticks: 0, pictures: 1 },
    differingRecords: 1,
  });
  await take(archive);
  expect(await listSessions(second.id)).toMatchObject([
    { session: measured, readings: [{ value: 1.25 }, { value: 7 }] },
  ]);
});

describe('what is refused, said where, and leaves nothing behind', () => {
  const good = async () => {
    const there = await workshop();
    const archive = await out();
    await empty();
    return { ...there, archive };
  };
  const expectRefused = async (bytes: Buffer, member: string, words: string) => {
    const faults = await faultsOf(look(bytes));
    expect(faults).toContainEqual({
      path: expect.stringContaining(member) as string,
      message: expect.stringContaining(words) as string,
    });
    const { seen } = { seen: '0'.repeat(64) };
    await expect(takeArchive(await fileOf(bytes), MINE, seen, never)).rejects.toThrow();
    expect(await holdings()).toMatchObject({ designs: 0, parts: 0, sessions: 0, pictures: 0 });
  };

  it('no archive at all, one that breaks off, and a ZIP of something else', async () => {
    const { archive } = await good();
    await expectRefused(Buffer.from('hello'), '$', 'no ZIP file');
    await expectRefused(Buffer.alloc(0), '$', 'no ZIP file');
    await expectRefused(archive.subarray(0, archive.length / 2), '$', 'no ZIP file');
    const members = await membersOf(archive);
    members.delete(MANIFEST);
    const zip = await packed(new Map([['readme.txt', Buffer.from('x')]]), {});
    await expectRefused(zip, MANIFEST, 'must be "eager-ladder/workshop"');
  });

  it('another version', async () => {
    const { archive } = await good();
    const members = await membersOf(archive);
    const manifest = JSON.parse(members.get(MANIFEST)!.toString());
    await expectRefused(await packed(members, { ...manifest, version: 2 }), `${MANIFEST} $.version`, 'must be 1');
  });

  it('a damaged member, one that is missing, one too many, one of no known kind', async () => {
    const { archive, first, second, shown } = await good();
    const members = await membersOf(archive);
    const manifest = JSON.parse(members.get(MANIFEST)!.toString());
    const named = designMember(first.id, 'design');
    const damaged = new Map(members).set(named, Buffer.from(`${members.get(named)!.toString()} `));
    await expectRefused(await packed(damaged, manifest), named, 'is damaged');
    const lacking = new Map(members);
    lacking.delete(pictureMember(second.id, shown));
    await expectRefused(await packed(lacking, manifest), pictureMember(second.id, shown), 'is missing');
    await expectRefused(
      await packed(new Map(members).set('extra.json', Buffer.from('{}')), manifest),
      'extra.json',
      'not named',
    );
    await expectRefused(
      await packed(new Map(members).set('extra.json', Buffer.from('{}'))),
      'extra.json',
      'is no member',
    );
    const orphan = new Map(members);
    orphan.delete(designMember(second.id, 'design'));
    await expectRefused(await packed(orphan), designMember(second.id, 'design'), 'is missing');
    // Bytes of the file itself turned over, in the midst of a member that is stored as it is.
    const turned = Buffer.from(archive);
    const stored = members.get(pictureMember(second.id, shown))!;
    turned[turned.indexOf(stored) + Math.floor(stored.length / 2)] ^= 0xff;
    await expectRefused(turned, pictureMember(second.id, shown), 'is damaged');
  });

  it('documents and records that the schemas refuse, each at its place, all of them told', async () => {
    const { archive, first, second, shown } = await good();
    const wrong = await edited(
      await edited(
        archive,
        designMember(first.id, 'design'),
        (document: { revisions: { document: { ladder: object } }[] }) => {
          document.revisions[1].document.ladder = { ...document.revisions[1].document.ladder, stages: -3 };
        },
      ),
      DRAWER,
      (document: { parts: { farads: number }[] }) => {
        document.parts[0].farads = -1;
      },
    );
    const faults = await faultsOf(look(wrong));
    expect(faults.map((fault) => fault.path)).toEqual(
      expect.arrayContaining([
        `${DRAWER} $.parts[0].farads`,
        `${designMember(first.id, 'design')} $.revisions[1].document.ladder.stages`,
      ]),
    );
    await expectRefused(wrong, 'stages', 'must');
    const backwards = await edited(archive, designMember(first.id, 'design'), (document: { revisions: unknown[] }) => {
      document.revisions.reverse();
    });
    await expectRefused(backwards, '$.revisions[1].revision', 'larger than the one before');
    const foreign = await edited(archive, designMember(first.id, 'design'), (document: { id: string }) => {
      document.id = second.id;
    });
    await expectRefused(foreign, '$.id', 'that of its folder');
    const members = await membersOf(archive);
    const text = new Map(members).set(pictureMember(second.id, shown), Buffer.from('not a picture'));
    await expectRefused(await packed(text), pictureMember(second.id, shown), 'no picture');
    const twice = await edited(archive, designMember(second.id, 'bench'), (document: SessionReadings[]) => {
      document.push(document[0]);
    });
    await expectRefused(twice, designMember(second.id, 'bench'), 'is in the archive twice');
    const foreignPicture = new Map(members).set(
      pictureMember(first.id, shown),
      members.get(pictureMember(second.id, shown))!,
    );
    const [, later] = [first.id, second.id].sort();
    await expectRefused(await packed(foreignPicture), pictureMember(later, shown), 'is in the archive twice');
    const twiceInDrawer = await edited(archive, DRAWER, (document: { parts: unknown[] }) => {
      document.parts.push(document.parts[0]);
    });
    await expectRefused(twiceInDrawer, DRAWER, 'two parts with one id');
  });

  it('a record that belongs to another design here', async () => {
    const { archive, second } = await good();
    await take(archive);
    const other = await createDesign(newDesign('Another'));
    await pool().query('UPDATE discharges SET design_id = $1', [other.id]);
    expect(await faultsOf(look(archive))).toContainEqual({
      path: designMember(second.id, 'discharges'),
      message: expect.stringContaining('belongs to something else here') as string,
    });
  });
});

it('what no schema reads leaves as it stands, and is told and left when it comes back', async () => {
  const { first, second } = await workshop();
  await pool().query(`UPDATE designs SET document = '{"name": "Broken"}' WHERE id = $1`, [first.id]);
  await pool().query(`UPDATE discharges SET record = '{}'`);
  await pool().query(`UPDATE parts SET fields = '{}' WHERE name = 'Disc 1 nF'`);
  const archive = await out();
  const members = await membersOf(archive);
  expect(members.has(designMember(first.id, 'design'))).toBe(false);
  expect(
    JSON.parse(members.get(UNREAD)!.toString())
      .map(({ of }: { of: string }) => of)
      .sort(),
  ).toEqual(['drawer', designMember(first.id, 'design'), designMember(second.id, 'discharges')].sort());
  await empty();
  expect(await take(archive)).toMatchObject({ unread: 3, parts: { fresh: 1 }, records: { discharges: 0, ticks: 0 } });
  expect(await findDesign(first.id)).toBeNull();
});

it('a picture that tells of place and camera is written anew', async () => {
  const { second, shown } = await workshop();
  const archive = await out();
  await empty();
  const told = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#123456' } })
    .withExif({ IFD0: { Make: 'Camera of nobody' } })
    .jpeg()
    .toBuffer();
  await take(await packed((await membersOf(archive)).set(pictureMember(second.id, shown), told)));
  const kept = (await findPicture(second.id, shown))!;
  expect(kept.includes('Camera of nobody')).toBe(false);
  expect(await sharp(kept).metadata()).toMatchObject({ format: 'jpeg', width: 40, height: 30 });
});

it('stopped in the midst of it nothing is taken', async () => {
  const archive = await (async () => {
    await workshop();
    return out();
  })();
  await empty();
  const { seen } = await look(archive);
  const stop = new AbortController();
  stop.abort();
  await expect(takeArchive(await fileOf(archive), MINE, seen, stop.signal)).rejects.toThrow('abort');
  expect(await holdings()).toMatchObject({ designs: 0, parts: 0 });
});
