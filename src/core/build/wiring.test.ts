import { benchDesign } from '../../../tests/reference/bench-design';
import { demoDesign } from '../../../tests/reference/demo-designs';
import { designSchema, type Design } from '../design/design-schema';
import { TOPOLOGIES } from '../topology/network';
import { stagesFor, TOPOLOGY_KINDS } from '../topology/topologies';
import { wiringOf, type Place } from './wiring';

const wired = (design: Design) => wiringOf(design)!;
const middle = ({ from, to }: { from: Place; to: Place }): Place => [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];

const ANY = TOPOLOGIES.filter((topology) => topology !== 'none').flatMap((topology) =>
  [1, 4].map((stages): [string, Design] => [
    `${topology} ${stages}`,
    benchDesign({
      ladder: { topology, stages: stagesFor(topology, stages) },
      output: {
        seriesOhms: 1e6,
        bleederOhms: 1e9,
        divider: { topOhms: 1e9, footOhms: 1e6 },
        smoothing: [
          { ohms: 1e4, farads: 1e-9 },
          { henries: 1, farads: 1e-9 },
        ],
        electrodeFarads: 1e-11,
      },
      load: { kind: 'current', amps: 1e-6 },
    }),
  ]),
);

describe.each(ANY)('the wiring of %s', (_name, design) => {
  const wiring = wired(design);
  const network = TOPOLOGY_KINDS[design.ladder.topology].build(design.ladder.stages, 1);

  it('has every part of the ladder once, between its own nodes', () => {
    const dots = new Map(wiring.dots.map(({ at, name }) => [name === '' ? 'ground' : name, at]));
    for (const { id } of [...network.capacitors, ...network.diodes])
      expect(wiring.parts.filter((part) => part.id === id)).toHaveLength(1);
    for (const { id, anode, cathode } of network.diodes) {
      const part = wiring.parts.find((one) => one.id === id)!;
      const at = (node: string) => dots.get(node === 'source' ? 'drive' : node);
      if (at(anode) && anode !== 'ground') expect(part.from).toEqual(at(anode));
      if (at(cathode) && cathode !== 'ground') expect(part.to).toEqual(at(cathode));
    }
  });

  it('no symbol lies on another, or on a box', () => {
    const middles = wiring.parts.map(middle);
    for (let at = 0; at < middles.length; at += 1) {
      for (let other = 0; other < at; other += 1)
        expect(Math.hypot(middles[at][0] - middles[other][0], middles[at][1] - middles[other][1])).toBeGreaterThan(8);
      for (const box of wiring.boxes) expect(middles[at][1] - box.at[1]).toBeGreaterThan(15);
    }
  });

  it('has what is behind the terminal: two sections, bleeder, divider, series string, far end and load', () => {
    const names = wiring.parts.map(({ name }) => name);
    for (const name of ['Bleeder', 'Divider', 'Series', 'Far end', 'Load', 'Choke']) expect(names).toContain(name);
    expect(names.filter((name) => name === 'Smoothing')).toHaveLength(3);
  });
});

it('a negative ladder has its diodes the other way round', () => {
  const design = demoDesign('flocking-applicator');
  const turned = wired(design);
  const other = wired({ ...design, ladder: { ...design.ladder, polarity: 'positive' } });
  for (const part of turned.parts.filter(({ kind }) => kind === 'diode')) {
    const same = other.parts.find(({ id }) => id === part.id)!;
    expect([part.from, part.to]).toEqual([same.to, same.from]);
  }
});

it('what does not rectify has none', () => {
  expect(wiringOf(benchDesign({ ladder: { topology: 'none' } }))).toBeNull();
});

describe('from the wall or battery', () => {
  const demos = ['flocking-applicator', 'photomultiplier-bias', 'dust-plate-precipitator'].map(demoDesign);

  it('supply and driver say what they are made of, and no box lies on its neighbour', () => {
    for (const design of demos) {
      const { boxes } = wired(design);
      for (const [index, box] of boxes.entries()) {
        if (index > 0) {
          const before = boxes[index - 1];
          expect(box.at[0] - box.wide / 2).toBeGreaterThan(before.at[0] + before.wide / 2 + 10);
        }
        expect(box.lines.length).toBeGreaterThan(0);
      }
    }
    const { boxes } = wired(demos[0]);
    expect(boxes.map(({ id }) => id)).toEqual(['supply', 'driver', 'transformer']);
    expect(boxes[2].lines).toEqual(['12 to 500 turns']);
  });

  const supplied = (supply: object) => wired({ ...demos[0], supply: supply as never });
  const interrupting = (wiring: ReturnType<typeof wired>) =>
    wiring.parts.filter(({ kind }) => kind === 'switch' || kind === 'fuse');

  it('a switch and a fuse interrupt the supply behind it', () => {
    const wiring = supplied({ kind: 'dc', volts: 24, seriesOhms: 0, maxAmps: null });
    const [supply, driver] = wiring.boxes;
    const [first, second] = interrupting(wiring);
    expect([first.kind, second.kind]).toEqual(['switch', 'fuse']);
    expect(first.from[0]).toBeCloseTo(supply.at[0] + supply.wide / 2, 9);
    expect(second.to[0]).toBeCloseTo(driver.at[0] - driver.wide / 2, 9);
    expect(supply.lines).toEqual(['Voltage, dc 24.0 V'.replace(' V', '\u00a0V')]);
  });

  it('one that rectifies the line is switched before it, both lines of it, fused in the live one', () => {
    const wiring = supplied({ kind: 'smoothed-mains', secondaryVolts: 18, seriesOhms: 0.3, smoothingFarads: 4.7e-3 });
    const [supply] = wiring.boxes;
    const [first, second] = interrupting(wiring);
    expect(second.to[0]).toBeCloseTo(supply.at[0] - supply.wide / 2, 9);
    expect([first.value, second.value]).toEqual(['cuts both lines', 'in the live line']);
    expect(wiring.dots.some(({ name }) => name === 'line')).toBe(true);
  });

  it('where no supply is known none is drawn', () => {
    expect(interrupting(wired(benchDesign({})))).toEqual([]);
  });
});

describe('the common conductor', () => {
  const earthed = (design: Design) => wired(design).isEarthed;

  it('is earth where a secondary stands between it and the line, and drawn as no earth where it is not', () => {
    expect(earthed(demoDesign('flocking-applicator'))).toBe(true);
    const bench = wired(benchDesign({}));
    expect([bench.isEarthed, bench.notes.length]).toEqual([false, 2]);
    const { driver, ...rest } = demoDesign('dust-plate-precipitator');
    expect(driver.kind).toBe('mains');
    const line = wired(
      designSchema.parse({ ...rest, ladder: demoDesign('teaching-tripler').ladder, driver: { kind: 'direct-mains' } }),
    );
    expect(line.isEarthed).toBe(false);
    expect(line.notes.join(' ')).toContain('neither earth nor enclosure');
  });

  it('a winding that floats has none', () => {
    const floating = wired(benchDesign({ ladder: { topology: 'two-ended', stages: 2 } }));
    expect(floating.grounds.filter(([x, y]) => x === 0 && y > 0)).toEqual([]);
    expect(floating.ends.map(({ text }) => text)).toEqual(
      expect.arrayContaining(['from C1’s other half', 'to C1’s other half']),
    );
  });
});
