import { randomUUID } from 'node:crypto';
import { benchReading } from '../../tests/reference/bench-reading';
import { lowSourceSchema } from '@/core/bench/low-source';
import type { Entry, Failure } from '@/core/bench/entries';
import { MOST_READINGS, type Session } from '@/core/bench/session';
import { newDesign } from '@/core/design/new-design';
import { meterSchema } from '@/core/drive/meter-sense';
import { keepReadings, lastMeasured, listSessions } from './bench';
import { createDesign, saveDesign, setArchived, thinRevisions } from './designs';
import { listFailures } from './failures';
import { pool } from './pool';

// Against the real throw-away database that ./test starts and migrates.
beforeEach(() => pool().query('TRUNCATE designs CASCADE'));
afterAll(() => pool().end());

const design = newDesign('To be measured');
const sessionOf = (changes: Partial<Session> = {}): Session => ({
  id: randomUUID(),
  revision: 1,
  startedAt: '2026-03-01T10:00:00.000Z',
  source: lowSourceSchema.parse({ kind: 'winding' }),
  meter: meterSchema.parse({}),
  note: '',
  ...changes,
});
it('a reading sent again, alone or among others, is kept once and as it was', async () => {
  const { id } = await createDesign(design);
  const session = sessionOf();
  const [one, other] = [benchReading(), benchReading({ at: 'B2', value: 66, takenAt: '2026-03-01T10:02:00.000Z' })];
  expect(await keepReadings(id, { session, readings: [one] })).toEqual([one.id]);
  const changed = { ...one, value: 1 };
  expect(await keepReadings(id, { session, readings: [changed, other] })).toEqual([one.id, other.id]);
  expect(await listSessions(id)).toEqual([{ session, readings: [one, other] }]);
});

it('two devices add to one session at once, and nothing is lost', async () => {
  const { id } = await createDesign(design);
  const session = sessionOf();
  const readings = Array.from({ length: 40 }, (_, at) => benchReading({ at: `B${at}` }));
  await Promise.all(readings.map((reading) => keepReadings(id, { session, readings: [reading] })));
  const [{ readings: kept }] = await listSessions(id);
  expect(kept.map((one) => one.id).toSorted()).toEqual(readings.map((one) => one.id).toSorted());
});

it('readings belong to the design of their session, and to one that there is', async () => {
  const [one, other] = [await createDesign(design), await createDesign(design)];
  const session = sessionOf();
  await expect(keepReadings(randomUUID(), { session, readings: [] })).rejects.toMatchObject({ why: 'no design' });
  await keepReadings(one.id, { session, readings: [] });
  await expect(keepReadings(other.id, { session, readings: [benchReading()] })).rejects.toMatchObject({
    why: 'of another design',
  });
  expect([await listSessions(one.id), await listSessions(other.id)]).toEqual([[{ session, readings: [] }], []]);
});

it('a session that would become too long keeps none of what was sent', async () => {
  const { id } = await createDesign(design);
  const session = sessionOf();
  await keepReadings(id, { session, readings: Array.from({ length: MOST_READINGS }, () => benchReading()) });
  await expect(keepReadings(id, { session, readings: [benchReading()] })).rejects.toMatchObject({ why: 'too many' });
  expect((await listSessions(id))[0].readings).toHaveLength(MOST_READINGS);
});

it('newest session first; what cannot be read is passed over, and takes nothing with it', async () => {
  const { id } = await createDesign(design);
  const [early, late] = [sessionOf(), sessionOf({ startedAt: '2026-03-02T10:00:00.000Z' })];
  const [sound, broken] = [benchReading(), benchReading()];
  await keepReadings(id, { session: early, readings: [sound, broken] });
  await keepReadings(id, { session: late, readings: [] });
  await pool().query(`UPDATE bench_readings SET record = '{}' WHERE id = $1`, [broken.id]);
  expect(await listSessions(id)).toEqual([
    { session: late, readings: [] },
    { session: early, readings: [sound] },
  ]);
});

it('the shelf is told of the last session that has readings, as they stood', async () => {
  const [one, other] = [await createDesign(design), await createDesign(design)];
  const expected = { value: 33, low: 32, high: 34 };
  await keepReadings(one.id, { session: sessionOf(), readings: [benchReading({ expected, value: 50 })] });
  const last = sessionOf({ startedAt: '2026-03-02T10:00:00.000Z' });
  const wrong = benchReading({ expected, value: 50 });
  await keepReadings(one.id, {
    session: last,
    readings: [wrong, benchReading({ expected, replaces: wrong.id }), benchReading({ expected, value: 34.5 })],
  });
  await keepReadings(one.id, { session: sessionOf({ startedAt: '2026-03-03T10:00:00.000Z' }), readings: [] });
  const told = await lastMeasured([one.id, other.id]);
  expect([...told]).toEqual([[one.id, { at: last.startedAt, agrees: 1, doubtful: 1, off: 0 }]]);
});

it('a revision that was measured is never thinned away', async () => {
  const { id } = await createDesign(design);
  for (let revision = 1; revision <= 6; revision += 1)
    await saveDesign(id, revision, { ...design, notes: `${revision}` });
  await keepReadings(id, { session: sessionOf({ revision: 3 }), readings: [] });
  await pool().query(
    `UPDATE design_revisions SET saved_at = date_trunc('day', now()) - interval '40 days' + revision * interval '1 minute'`,
  );
  await thinRevisions(pool(), id);
  const { rows } = await pool().query<{ revision: number }>('SELECT revision FROM design_revisions ORDER BY revision');
  expect(rows.map(({ revision }) => revision)).toEqual([1, 3, 7]);
});

it('readings of a design that is put away wait until it is back', async () => {
  const { id } = await createDesign(design);
  const session = sessionOf();
  await setArchived(id, true);
  await expect(keepReadings(id, { session, readings: [benchReading()] })).rejects.toMatchObject({ why: 'put away' });
  await setArchived(id, false);
  const reading = benchReading();
  expect(await keepReadings(id, { session, readings: [reading] })).toEqual([reading.id]);
});

it('failures of all designs are found with their design, newest first, and none that was struck out', async () => {
  const [one, other] = [await createDesign(design), await createDesign(newDesign('Another'))];
  const failure = (takenAt: string): Failure => ({
    id: randomUUID(),
    takenAt,
    kind: 'failure',
    at: 'D2',
    how: 'shorted',
    type: { kind: 'diode', partId: null, ratedVolts: 3000, farads: null },
    stressVolts: 2000,
    remark: '',
    pictureId: null,
    replaces: null,
  });
  const [first, second, struck] = [
    '2026-03-01T10:00:00.000Z',
    '2026-03-02T10:00:00.000Z',
    '2026-03-03T10:00:00.000Z',
  ].map(failure);
  const gone: Entry = {
    id: randomUUID(),
    takenAt: '2026-03-03T11:00:00.000Z',
    kind: 'note',
    at: '',
    remark: '',
    pictureId: null,
    replaces: struck.id,
  };
  await keepReadings(one.id, { session: sessionOf(), readings: [benchReading(), first, struck, gone] });
  await keepReadings(other.id, { session: sessionOf({ revision: 1 }), readings: [second] });
  const found = await listFailures();
  expect(found.map(({ failure: { id }, designName }) => [id, designName])).toEqual([
    [second.id, 'Another'],
    [first.id, 'To be measured'],
  ]);
});
