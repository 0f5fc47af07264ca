import fc from 'fast-check';
import { benchDesign } from '../../../tests/reference/bench-design';
import { demoDesign } from '../../../tests/reference/demo-designs';
import { ARRANGEMENTS, buildSchema, HELD, MEDIA } from '../design/build-schema';
import type { MeasuredDesign } from '../design/design-schema';
import { airSchema } from '../load/air/air';
import { TOPOLOGIES } from '../topology/network';
import { stagesFor } from '../topology/topologies';
import { clearanceFor, creepageFor } from './distances';
import { bodiesOf } from './bodies';
import { gapBetween, type Point, type Rod } from './geometry';
import { insulationOf } from './insulation';
import { layoutOf } from './layout';

const AIR = airSchema.parse({});
const SAMPLES = 16;
/** Whether balls around two rods are further apart than so much: then so are the rods. */
function isFar(one: Rod, other: Rod, metres: number): boolean {
  const ball = ({ from, to, radius }: Rod) => ({
    middle: from.map((value, way) => (value + to[way]) / 2),
    radius: radius + Math.hypot(...from.map((value, way) => value - to[way])) / 2,
  });
  const [a, b] = [ball(one), ball(other)];
  return Math.hypot(...a.middle.map((value, way) => value - b.middle[way])) - a.radius - b.radius >= metres;
}

/** What lies free between two rods, by sampling both axes: never less than what there is. */
function sampledGap(one: Rod, other: Rod): number {
  const points = ({ from, to }: Rod) =>
    Array.from({ length: SAMPLES + 1 }, (_, at): Point => {
      const share = at / SAMPLES;
      return [0, 1, 2].map((way) => from[way] + share * (to[way] - from[way])) as unknown as Point;
    });
  let least = Infinity;
  for (const [x, y, z] of points(one))
    for (const [u, v, w] of points(other)) least = Math.min(least, Math.hypot(x - u, y - v, z - w));
  return least - one.radius - other.radius;
}

const millimetres = (from: number, to: number) =>
  fc.double({ min: from, max: to, noNaN: true }).map((one) => one * 1e-3);

const anyBuild: fc.Arbitrary<MeasuredDesign> = fc
  .record({
    topology: fc.constantFrom(...TOPOLOGIES.filter((one) => one !== 'none')),
    stages: fc.integer({ min: 1, max: 7 }),
    peakVolts: fc.integer({ min: 5, max: 3000 }),
    capacitor: fc.record({ lengthMetres: millimetres(2, 60), diameterMetres: millimetres(2, 40) }),
    series: fc.integer({ min: 1, max: 3 }),
    parallel: fc.integer({ min: 1, max: 3 }),
    build: fc.record({
      medium: fc.constantFrom(...MEDIA.filter((one) => one !== 'other')),
      arrangement: fc.constantFrom(...ARRANGEMENTS),
      held: fc.constantFrom(...HELD),
      boardStages: fc.integer({ min: 1, max: 4 }),
      diodeLengthMetres: millimetres(3, 40),
      diodeDiameterMetres: millimetres(2, 10),
      leadMetres: millimetres(0.3, 2),
      jointRadiusMetres: millimetres(0.5, 3),
    }),
  })
  .map(({ topology, stages, peakVolts, capacitor, series, parallel, build }) => ({
    ...benchDesign({
      driver: { positivePeakVolts: peakVolts, frequencyHertz: 20e3 },
      ladder: {
        topology,
        stages: stagesFor(topology, stages),
        capacitor: { farads: 1e-9, series, parallel, ...capacitor },
      },
      diode: { series },
    }),
    build: buildSchema.parse(build),
  }));

describe('geometry', () => {
  it('rods that cross, run side by side, and balls: by hand', () => {
    const rod = (from: Point, to: Point, radius = 0): Rod => ({ from, to, radius });
    expect(gapBetween(rod([-1, 0, 0], [1, 0, 0]), rod([0, -1, 3], [0, 1, 3])).metres).toBeCloseTo(3, 12);
    expect(gapBetween(rod([0, 0, 0], [1, 0, 0], 0.5), rod([0, 2, 0], [1, 2, 0], 0.5)).metres).toBeCloseTo(1, 12);
    expect(gapBetween(rod([0, 0, 0], [0, 0, 0], 1), rod([3, 4, 0], [3, 4, 0], 1)).metres).toBeCloseTo(3, 12);
    expect(gapBetween(rod([0, 0, 0], [1, 0, 0]), rod([2, 1, 0], [5, 1, 0])).metres).toBeCloseTo(Math.SQRT2, 12);
  });

  it('any two rods are as near as samples of them say', () => {
    const axis = fc.double({ min: -1, max: 1, noNaN: true });
    const point: fc.Arbitrary<Point> = fc.tuple(axis, axis, axis);
    fc.assert(
      fc.property(point, point, point, point, (a, b, c, d) => {
        const [one, other] = [
          { from: a, to: b, radius: 0 },
          { from: c, to: d, radius: 0 },
        ];
        const { metres } = gapBetween(one, other);
        const sampled = sampledGap(one, other);
        expect(metres).toBeLessThanOrEqual(sampled + 1e-9);
        // Samples are at most half a step of either axis away.
        expect(sampled - metres).toBeLessThan(3.5 / SAMPLES);
      }),
    );
  });
});

describe('any design that can be laid out', () => {
  it('no two bodies overlap, no conductors are nearer than their clearance, and the enclosure keeps its distance', () => {
    let laidOut = 0;
    fc.assert(
      fc.property(anyBuild, (design) => {
        const insulation = insulationOf(design, AIR)!;
        const layout = layoutOf(design, insulation);
        if (!layout) return;
        laidOut += 1;
        const { bodies, conductors } = layout.arranged;
        expect(layout.breaches).toEqual([]);
        for (let at = 0; at < bodies.length; at += 1)
          for (let other = 0; other < at; other += 1)
            if (!isFar(bodies[at], bodies[other], 0)) expect(sampledGap(bodies[at], bodies[other])).toBeGreaterThan(0);
        const { around } = insulation;
        const { between, rmsBetween, hertz } = insulation.potentials;
        for (let at = 0; at < conductors.length; at += 1)
          for (let other = 0; other < at; other += 1) {
            const [one, two] = [conductors[at], conductors[other]];
            if (one.node === two.node) continue;
            // Of one part the two leads are as near as its body is long.
            if (bodies.some(({ ends }) => ends.includes(one.node) && ends.includes(two.node))) continue;
            const isOneBoard = new Set([one.from[2], one.to[2], two.from[2], two.to[2]]).size === 1;
            const alongSurface =
              design.build.held === 'surface' && isOneBoard
                ? creepageFor(rmsBetween(one.node, two.node), between(one.node, two.node), around)!
                : 0;
            const needed = Math.max(alongSurface, clearanceFor(between(one.node, two.node), around, hertz)!) - 1e-9;
            if (!isFar(one, two, needed)) expect(sampledGap(one, two)).toBeGreaterThanOrEqual(needed);
          }
        const { low, lengthMetres } = layout.enclosure!;
        for (const { node, from, to, radius } of conductors) {
          const kept = clearanceFor(insulation.potentials.toGround(node), around, hertz)!;
          if (node === 'ground') continue;
          expect(Math.min(from[0], to[0]) - radius - low[0]).toBeGreaterThanOrEqual(kept - 1e-9);
          expect(low[0] + lengthMetres - Math.max(from[0], to[0]) - radius).toBeGreaterThanOrEqual(kept - 1e-9);
        }
      }),
      { numRuns: 500 },
    );
    expect(laidOut).toBeGreaterThan(400);
  }, 240_000);

  it('a spacing that is entered is checked, each breach with what would be needed', () => {
    const design = {
      ...benchDesign({
        driver: { positivePeakVolts: 2e3 },
        ladder: { stages: 4, capacitor: { farads: 1e-9, lengthMetres: 0.01, diameterMetres: 0.005 } },
      }),
      build: buildSchema.parse({ pitchMetres: 0.02, rowMetres: 0.012 }),
    };
    const insulation = insulationOf(design, AIR)!;
    const tight = layoutOf(design, insulation)!;
    expect(tight.spacing).toMatchObject({ pitch: 0.02, row: 0.012 });
    expect(tight.breaches.length).toBeGreaterThan(0);
    for (const { metres, neededMetres } of tight.breaches) expect(metres).toBeLessThan(neededMetres);
    const wide = { ...design, build: buildSchema.parse({ pitchMetres: 0.2, rowMetres: 0.2 }) };
    expect(layoutOf(wide, insulationOf(wide, AIR)!)!.breaches).toEqual([]);
    // A body longer than its room.
    const long = { ...design, build: buildSchema.parse({ pitchMetres: 0.009, rowMetres: 0.1 }) };
    expect(layoutOf(long, insulationOf(long, AIR)!)!.breaches.map(({ between }) => between.join(' '))).toContain(
      'C1 C1',
    );
  });

  it('is found anew at a hair less than what was found: the least but for what the search leaves', () => {
    const design = {
      ...benchDesign({
        driver: { positivePeakVolts: 2e3 },
        ladder: { stages: 3, capacitor: { farads: 1e-9, lengthMetres: 0.012, diameterMetres: 0.006 } },
      }),
      build: buildSchema.parse({}),
    };
    const insulation = insulationOf(design, AIR)!;
    const { pitch, row } = layoutOf(design, insulation)!.spacing;
    for (const build of [
      { pitchMetres: 0.95 * pitch, rowMetres: row },
      { pitchMetres: pitch, rowMetres: 0.95 * row },
    ])
      expect(layoutOf({ ...design, build: buildSchema.parse(build) }, insulation)!.breaches.length).toBeGreaterThan(0);
  });

  it('weighs what fills it: the box less the bodies, by hand', () => {
    const design = {
      ...benchDesign({ driver: { positivePeakVolts: 1e3 }, ladder: { stages: 2 } }),
      build: buildSchema.parse({ medium: 'oil' }),
    };
    const { enclosure, mediumKilograms, arranged } = layoutOf(design, insulationOf(design, AIR)!)!;
    const box = enclosure!.lengthMetres * enclosure!.widthMetres * enclosure!.heightMetres;
    const bodies = arranged.bodies.reduce(
      (sum, { from, to, radius }) =>
        sum + Math.PI * radius ** 2 * Math.hypot(from[0] - to[0], from[1] - to[1], from[2] - to[2]),
      0,
    );
    // Transformer oil: 0.87 kg in a litre (handbook).
    expect(mediumKilograms).toBeCloseTo(870 * (box - bodies), 9);
  });
});

it('a joint that is rounded, or has a ring or ball, against corona is counted as large as that', () => {
  const design = demoDesign('electrospinning-bench-pair');
  const insulation = insulationOf(design, AIR)!;
  const wanted = new Map(insulation.nodes.map(({ id, rounding }) => [id, rounding]));
  expect([...wanted.values()].some((rounding) => rounding?.kind === 'ring')).toBe(true);
  const layout = layoutOf(design, insulation)!;
  for (const { node, kind, radius } of layout.arranged.conductors) {
    const rounding = wanted.get(node);
    const least = design.build.jointRadiusMetres;
    if (kind === 'joint')
      expect(radius).toBe(rounding && 'radiusMetres' in rounding ? Math.max(least, rounding.radiusMetres) : least);
  }
  expect(layout.breaches).toEqual([]);
  // Without them it would be smaller, and its box too.
  const bare = layoutOf(design, { ...insulation, nodes: insulation.nodes.map((one) => ({ ...one, rounding: null })) })!;
  expect(bare.spacing.pitch).toBeLessThan(layout.spacing.pitch);
  expect(bare.enclosure!.lengthMetres).toBeLessThan(layout.enclosure!.lengthMetres);
});

describe('usual bodies', () => {
  const bodyOf = (farads: number, ratedVolts: number) =>
    bodiesOf(benchDesign({ ladder: { capacitor: { farads, ratedVolts } } })).each.capacitor;

  it('are discs of up to 30 mm, or wound, half as long again as wide', () => {
    for (const [farads, volts] of [
      [1e-9, 15e3],
      [560e-12, 15e3],
      [22e-9, 6e3],
      [220e-9, 630],
      [10e-6, 400],
      [2e-9, 40e3],
    ]) {
      const { lengthMetres, diameterMetres, isEntered } = bodyOf(farads, volts);
      const joulesPerCubicMetre = (farads * volts ** 2) / 2 / ((Math.PI / 4) * diameterMetres ** 2 * lengthMetres);
      expect(isEntered).toBe(false);
      const isWound = lengthMetres > 1.49 * diameterMetres;
      expect(joulesPerCubicMetre).toBeLessThan(isWound ? 10.01e3 : 30.01e3);
      if (!isWound) expect(diameterMetres).toBeLessThanOrEqual(30e-3);
    }
    // 22 nF for 6 kV is wound, some 3 cm thick, and no disc of 10 cm.
    expect(bodyOf(22e-9, 6e3).diameterMetres).toBeCloseTo(0.032, 3);
    // A blue disc of 1 nF for 15 kV is 7 to 9 mm thick and 19 to 25 mm wide (common practice, no source).
    expect(bodyOf(1e-9, 15e3).lengthMetres).toBeCloseTo(7.5e-3, 9);
    expect(bodyOf(1e-9, 15e3).diameterMetres).toBeCloseTo(0.025, 3);
  });
});

it('a spacing that is too small for any row is laid out as well as it can be', () => {
  const demo = demoDesign('flocking-applicator');
  const insulation = insulationOf(demo, AIR)!;
  const free = layoutOf(demo, insulation)!;
  const tight = (rowMetres: number | null) =>
    layoutOf({ ...demo, build: { ...demo.build, pitchMetres: 0.85 * free.spacing.pitch, rowMetres } }, insulation)!;
  expect(tight(null).breaches.length).toBeGreaterThan(0);
  expect(tight(null).breaches.length).toBeLessThanOrEqual(tight(free.spacing.row).breaches.length);
  expect(tight(null).breaches.length).toBeLessThan(tight(0.012).breaches.length);
});
