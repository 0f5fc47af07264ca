import { benchDesign } from '../../../tests/reference/bench-design';
import { demoDesign } from '../../../tests/reference/demo-designs';
import type { Design } from '../design/design-schema';
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
