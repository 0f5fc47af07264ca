import fc from 'fast-check';
import { benchDesign } from '../../../tests/reference/bench-design';
import { dischargedLadder } from '../../../tests/reference/discharged-ladder';
import { hobbyDesign } from '../../../tests/reference/hobby-design';
import { finish } from '../numeric/finish';
import { predict } from '../predict/predict';
import { atRest } from '../topology/at-rest';
import { Falling, SERIES, smoothingPart, WINDING } from '../transient/falling';
import { chargedOf } from './charged';
import { hardestPressed } from './currents';
import { afterAll, deadPlanOf, USUAL_PLAN } from './plan';

const FARADS = 10e-9;
const NOTHING = { seriesOhms: 0, bleederOhms: null };
const ladder = (topology: string, stages: number, forwardVolts = 20, more: object = {}) =>
  benchDesign({
    driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
    ladder: { topology, stages, capacitor: { farads: FARADS, ratedVolts: 15e3 }, ...more },
    diode: { forwardVolts },
    output: { bleederOhms: null },
  });
const planOf = (...of: Parameters<typeof ladder>) => finish(deadPlanOf(ladder(...of), USUAL_PLAN));

describe('one capacitor, by hand', () => {
  // 5 kV less no drop on 10 nF: C V^2 / 2 = 0.125 J; 50 mA at most asks for 100 kilohm; R C ln(5000 / 60) = 4.42 ms.
  const plan = planOf('rectifier', 0.5, 0);

  it('stick, energy and time', () => {
    expect(plan.stick).toMatchObject({ ohms: 100e3, count: 10, amps: expect.closeTo(0.05, 6) });
    expect(plan.energies[0]).toMatchObject({ terminalVolts: 5000, joules: expect.closeTo(0.125, 9) });
    expect(plan.energies[0].coulombs).toBeCloseTo(50e-6, 12);
    expect(plan.seconds.terminal! / (100e3 * FARADS * Math.log(5000 / 60))).toBeCloseTo(1, 1);
    expect(plan.seconds.everywhere).toBe(plan.seconds.terminal);
  });

  it('a limit of its own is kept to, and another stick takes its own time', () => {
    const lower = finish(deadPlanOf(ladder('rectifier', 0.5, 0), { limitVolts: 5, stickOhms: 10e6 }));
    expect(lower.seconds.terminal! / (10e6 * FARADS * Math.log(1000))).toBeCloseTo(1, 1);
    expect(lower.steps.find(({ node }) => node?.isTerminal)!.seconds).toBeGreaterThanOrEqual(
      lower.seconds.terminal! * 3,
    );
    expect(lower.after.every(({ volts }) => Math.abs(volts) < 5)).toBe(true);
  });
});

describe.each([
  ['rectifier', 0.5],
  ['clamp', 1],
  ['half-wave', 1],
  ['half-wave', 2.5],
  ['bridge-doubler', 1],
  ['full-wave', 2],
  ['bipolar', 2],
  ['two-ended', 2],
] as const)('%s, %p stages', (topology, stages) => {
  const design = ladder(topology, stages);
  const { network, volts } = chargedOf(design);

  it('falls as integrated by odex', () => {
    const ohms = 1e6;
    for (const times of [0.3, 1, 12]) {
      const seconds = times * ohms * FARADS;
      const falling = new Falling(design, NOTHING, atRest(network, volts), seconds, {
        clips: [{ from: network.output, to: network.return, ohms }],
      });
      falling.run(160);
      const wanted = dischargedLadder(network, volts, ohms, seconds, {
        forwardVolts: 20,
        diodeOhms: 2e3,
        softVolts: 0.5,
      });
      falling.capacitorVolts().forEach((value, at) => expect(Math.abs(value - wanted[at])).toBeLessThan(0.01 * 5e3));
    }
  });

  it('energy and charge are the sums over the capacitors, and what the prediction has', () => {
    const { energies } = finish(deadPlanOf(design, USUAL_PLAN));
    for (const { joules, capacitors } of energies)
      expect(
        joules / capacitors.reduce((sum, held) => sum + ((FARADS_OF.get(held.id) ?? 0) * held.volts ** 2) / 2, 0),
      ).toBeCloseTo(1, 9);
    const { energy } = predict(design);
    expect(energies[0]).toMatchObject({
      joules: energy.joules,
      coulombs: energy.terminalCoulombs,
      hazardous: energy.hazardous,
    });
  });
  const FARADS_OF = new Map(network.capacitors.map(({ id, farads }) => [id, farads]));

  it('every capacitor is under the limit once all steps are done, and each is emptied by one of them', () => {
    const { after, steps } = finish(deadPlanOf(design, USUAL_PLAN));
    for (const { volts: left } of after) expect(Math.abs(left)).toBeLessThan(60);
    expect(after).toHaveLength(network.capacitors.length);
    const emptied = steps.flatMap(({ node }) => node?.empties ?? []);
    expect(emptied.sort()).toEqual(network.capacitors.map(({ id }) => id).sort());
  });
});

it('about one capacitor’s own voltage is left to a node behind the terminal', () => {
  const { steps } = planOf('half-wave', 6);
  const inside = steps.filter(({ node }) => node && !node.isTerminal);
  expect(Math.max(...inside.map(({ reading }) => reading!.failedVolts))).toBeLessThan(10.1e3);
  expect(steps.find(({ node }) => node?.isTerminal)!.reading!.failedVolts).toBeGreaterThan(59e3);
});

describe('what each part carries as the terminal is brought to ground', () => {
  it('one capacitor: V / R out of it, and as many times as much by a bare short as the stick has ohms; its diode nothing', () => {
    const { currents, stick } = planOf('rectifier', 0.5, 0);
    const [diode, capacitor] = currents;
    expect([diode.id, capacitor.id]).toEqual(['D1', 'C1']);
    expect(-capacitor.stick.least / (5000 / stick.ohms)).toBeCloseTo(1, 2);
    expect(-capacitor.bare.least / (-capacitor.stick.least * stick.ohms)).toBeCloseTo(1, 2);
    expect([diode.stick.most, capacitor.stick.most]).toEqual([0, 0]);
  });

  it('three stages: the smoothing column gives what leaves, the coupling column what its diodes carry', () => {
    const { currents, stick } = planOf('half-wave', 3);
    const of = (id: string) => currents.find((one) => one.id === id)!;
    // All that leaves the terminal comes out of the topmost smoothing capacitor, or through the topmost diode.
    expect(-of('C6').stick.least / stick.amps).toBeGreaterThan(0.94);
    expect(-of('C6').stick.least / stick.amps).toBeLessThanOrEqual(1);
    expect(hardestPressed(currents, 'diode', 'stick')!.amps).toBeLessThan(stick.amps);
    for (const { kind, stick: through, bare } of currents) {
      if (kind === 'diode') expect([through.least, bare.least]).toEqual([0, 0]);
      // A bare short is the stick with fewer ohms: nothing else here limits it, and no part carries other than in proportion.
      if (through.most > 1e-3) expect(bare.most / through.most / stick.ohms).toBeCloseTo(1, 0);
    }
    expect(hardestPressed([], 'diode', 'stick')).toBeNull();
  });
});

it('the meter is for the highest node, where a side that hardly climbs takes from the other', () => {
  const lame = benchDesign({
    driver: { positivePeakVolts: 500, negativePeakVolts: 5, frequencyHertz: 50 },
    ladder: { topology: 'bridge-doubler', capacitor: { farads: 1e-6 } },
    diode: { forwardVolts: 30 },
  });
  const { network, volts } = chargedOf(lame);
  const highest = Math.max(...[...atRest(network, volts).values()].map(Math.abs));
  const { steps } = finish(deadPlanOf(lame, USUAL_PLAN));
  for (const { reading } of steps.filter(({ node }) => node?.isTerminal))
    expect(reading!.failedVolts).toBeGreaterThanOrEqual(highest);
});

it('a ladder of two terminals has each brought to ground by itself', () => {
  const { steps } = planOf('two-ended', 2);
  expect(steps.filter(({ node }) => node?.isTerminal).map(({ node }) => node!.name)).toEqual([
    'terminal B2',
    'terminal NB2',
  ]);
  expect(steps.find(({ id }) => id === 'clip')!.text).toMatch(/strap it to earth/);
});

it('a diode that has come open keeps a capacitor charged behind a terminal that reads nothing', () => {
  const { faults } = planOf('half-wave', 3);
  expect(faults[0]).toMatchObject({ fault: { how: 'open' } });
  expect(faults[0].afterStick.volts).toBeGreaterThan(4000);
  expect(faults[0].afterStick.terminalVolts).toBeLessThan(60);
  expect(faults[0].afterBleeder).toBeNull();
});

it('a winding that has come apart leaves the coupling capacitor what it held', () => {
  const design = ladder('half-wave', 1);
  const { network, volts } = chargedOf(design);
  const falling = new Falling(design, NOTHING, atRest(network, volts), 1, {
    clips: [{ from: network.output, to: network.return, ohms: 1e6 }],
    fault: { part: WINDING, how: 'open' },
  });
  falling.run(40);
  expect(falling.capacitorVolts()[0]).toBeCloseTo(volts[0], 0);
  expect(falling.capacitorVolts()[1]).toBeLessThan(1);
});

it('a terminal at nothing may stand on capacitors far from it, where drops are high', () => {
  const { energies, seconds } = planOf('half-wave', 8, 30, { grading: 'tapered' });
  const shorted = energies.find(({ id }) => id === 'shorted')!;
  expect(Math.abs(shorted.terminalVolts)).toBeLessThan(1);
  expect(Math.max(...shorted.capacitors.map((held) => held.volts))).toBeGreaterThan(60);
  expect(seconds.everywhere).toBeNull();
});

describe('what hangs on the output', () => {
  // 150 pF at 30 kV: 67.5 mJ and 4.5 µC, behind 10 MΩ.
  const hung = (seriesOhms: number) =>
    benchDesign({
      driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
      ladder: { topology: 'half-wave', stages: 3, capacitor: { farads: FARADS, ratedVolts: 15e3 } },
      output: { seriesOhms, electrodeFarads: 150e-12 },
    });

  it('is held as any capacitor is, counted in the prediction and in a touch', () => {
    const { energies } = finish(deadPlanOf(hung(10e6), USUAL_PLAN));
    const own = energies[0].capacitors.at(-1)!;
    expect([own.volts, own.joules, own.coulombs]).toEqual([
      30e3,
      expect.closeTo(67.5e-3, 12),
      expect.closeTo(4.5e-6, 15),
    ]);
    expect(energies[0].joules / energies[0].capacitors.reduce((sum, { joules }) => sum + joules, 0)).toBeCloseTo(1, 9);
    const { energy, contact } = predict(hung(10e6));
    expect(energies[0]).toMatchObject({ joules: energy.joules, coulombs: energy.terminalCoulombs });
    expect(contact.front).toMatchObject({ amps: 60, joules: own.joules, coulombs: own.coulombs });
    expect(contact.front!.seconds).toBeCloseTo(5 * 2000 * 150e-12, 15);
    // What comes through the string is the ladder's alone.
    expect(contact.bodyJoules).toBeCloseTo(((energy.joules - own.joules) * 2000) / 10.002e6, 12);
  });

  it('keeps all it has where the string has come open, and has a step of its own', () => {
    const { faults, steps, after } = finish(deadPlanOf(hung(10e6), USUAL_PLAN));
    expect(faults[0]).toMatchObject({ fault: { part: 'series string' }, afterStick: { volts: 30e3 } });
    expect(steps.filter(({ node }) => node?.isTerminal).map(({ id }) => id)).toEqual(['node B3', 'node load']);
    expect(after.every(({ volts }) => Math.abs(volts) < 60)).toBe(true);
    const direct = finish(deadPlanOf(hung(0), USUAL_PLAN));
    expect(direct.steps.filter(({ node }) => node?.isTerminal).map(({ id }) => id)).toEqual(['node B3']);
    expect(direct.faults.some(({ fault }) => fault.part === 'series string')).toBe(false);
  });

  it('falls through string and stick by its own time constant', () => {
    const design = hung(10e6);
    const { network, volts } = chargedOf(design);
    const start = new Map(atRest(network, volts)).set('load', 30e3);
    const seconds = 0.7 * 10e6 * 150e-12;
    const falling = new Falling(design, { ...NOTHING, seriesOhms: 10e6, electrodeFarads: 150e-12 }, start, seconds, {
      clips: [{ from: network.output, to: 'ground', ohms: 1e-3 }],
    });
    falling.run(400);
    expect(falling.nodeVolts().get('load')! / (30e3 * Math.exp(-0.7))).toBeCloseTo(1, 2);
  });
});

describe('smoothing', () => {
  // Two sections of 100 kilohm and 20 nF behind 30 kV: 9 J each, more than the ladder has.
  const smoothed = benchDesign({
    driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
    ladder: { topology: 'half-wave', stages: 3, capacitor: { farads: FARADS, ratedVolts: 15e3 } },
    output: {
      smoothing: [
        { ohms: 100e3, farads: 20e-9 },
        { ohms: 100e3, farads: 20e-9 },
      ],
      bleederOhms: 1e9,
    },
  });

  it('is held as any capacitor is, and stands in front of whatever touches the output', () => {
    const { energies } = finish(deadPlanOf(smoothed, USUAL_PLAN));
    const own = energies[0].capacitors.slice(-2);
    expect(own.map(({ id }) => id)).toEqual(['smoothing capacitor 1', 'smoothing capacitor 2']);
    for (const { volts, joules, coulombs } of own)
      expect([volts, joules, coulombs]).toEqual([30e3, expect.closeTo(9, 9), expect.closeTo(0.6e-3, 12)]);
    for (const { joules, capacitors } of energies)
      expect(joules / capacitors.reduce((sum, held) => sum + held.joules, 0)).toBeCloseTo(1, 9);
    const { contact, energy } = predict(smoothed);
    expect(contact.front).toMatchObject({ joules: expect.closeTo(9, 9) });
    expect(energies[0]).toMatchObject({ joules: energy.joules, coulombs: energy.terminalCoulombs });
    // The bleeder, 1 G, drains them as well: by themselves over 40 s of time constant each and over ln(30e3 / 60) of it.
    expect(energy.bleedSeconds!).toBeGreaterThan(2 * 20 * Math.log(500));
    const bled = energies.find(({ id }) => id === 'bled')!;
    expect(bled.terminalVolts).toBeLessThan(60);
    expect(bled.capacitors.slice(-2).every(({ volts }) => volts < 60.1)).toBe(true);
  });

  it('keeps all it has where a section has come open, and each capacitor has a step of its own, in the order of the way', () => {
    const { faults, steps, after } = finish(deadPlanOf(smoothed, USUAL_PLAN));
    expect(faults.map(({ fault }) => fault.part)).toEqual(
      expect.arrayContaining(['smoothing section 1', 'smoothing section 2']),
    );
    expect(faults[0].afterStick).toMatchObject({
      volts: expect.closeTo(30e3, 3),
      capacitor: expect.stringMatching(/^smoothing/),
    });
    expect(steps.filter(({ node }) => node?.isTerminal).map(({ id }) => id)).toEqual([
      'node B3',
      'node smoothed 1',
      'node smoothed 2',
    ]);
    expect(after.every(({ volts }) => Math.abs(volts) < 60)).toBe(true);
  });

  it('falls through the stick with the ladder short-circuited by two time constants: by hand', () => {
    const one = { ...smoothed, output: { ...smoothed.output, smoothing: smoothed.output.smoothing.slice(0, 1) } };
    const { network, volts } = chargedOf(one);
    const seconds = 1.3 * 100e3 * 20e-9;
    const falling = new Falling(one, { ...one.output, bleederOhms: null }, atRest(network, volts), seconds, {
      clips: [{ from: network.output, to: 'ground', ohms: 1e-3 }],
    });
    falling.run(400);
    expect(falling.nodeVolts().get('smoothed 1')! / (30e3 * Math.exp(-1.3))).toBeCloseTo(1, 2);
  });
});

it('without a ladder there is still a plan, and nothing that holds', () => {
  const plan = planOf('none', 1);
  expect(plan.faults).toEqual([]);
  expect(plan.steps.map(({ id }) => id)).toEqual(['off', 'clip', 'node source', 'again']);
  expect(plan.energies[0].joules).toBe(0);
});

/** What may stand behind a ladder's terminal. */
const decades = (from: number, to: number) =>
  fc.double({ min: from, max: to, noNaN: true }).map((exponent) => 10 ** exponent);
const farEnd = fc.record({
  smoothing: fc.array(
    fc.record({
      ohms: decades(1, 7),
      henries: fc.oneof(fc.constant(0), decades(-3, 1)),
      farads: decades(-11, -6),
      ratedVolts: fc.constant(null),
    }),
    { maxLength: 2 },
  ),
  seriesOhms: fc.oneof(fc.constant(0), decades(3, 7.3)),
  electrodeFarads: fc.oneof(fc.constant(0), decades(-12, -9)),
});

it('after the plan no capacitor of any design is over the limit, whichever part has failed', () => {
  fc.assert(
    fc.property(hobbyDesign, farEnd, fc.nat(), fc.boolean(), (drawn, end, pick, open) => {
      const design = { ...drawn, output: { ...drawn.output, ...end } };
      const { network, volts: charged } = chargedOf(design);
      const stands = [...atRest(network, charged).values()].map(Math.abs);
      const mostVolts = Math.max(predict(design).output.noLoadPeakVolts, ...stands);
      const sections = end.smoothing.map((_, at) => smoothingPart(at + 1));
      const parts = [...network.diodes, ...network.capacitors].map(({ id }) => id).concat(sections, SERIES);
      const part = parts[pick % parts.length];
      // One that has come open inside cannot be reached by its leads; it is measured like the others.
      const reached = network.capacitors.map(({ id }) => !(open && id === part));
      const faults = [null, { part, how: open ? ('open' as const) : ('shorted' as const) }];
      afterAll(design, USUAL_PLAN, faults).forEach(({ volts, behind, mostReadVolts, mostFoundVolts }, which) => {
        expect(mostReadVolts).toBeLessThan(60);
        // What the meter of every step is said to stand.
        expect(mostFoundVolts).toBeLessThanOrEqual(1.001 * mostVolts + 1);
        for (const left of behind) expect(Math.abs(left)).toBeLessThan(60);
        volts.forEach((left, at) => {
          if (reached[at] || !faults[which]) expect(Math.abs(left)).toBeLessThan(60);
        });
      });
    }),
    { numRuns: Number(process.env.RUNS ?? 15), seed: Number(process.env.SEED ?? 16) },
  );
});
