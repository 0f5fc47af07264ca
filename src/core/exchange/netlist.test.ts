import { benchDesign } from '../../../tests/reference/bench-design';
import { demoDesign } from '../../../tests/reference/demo-designs';
import { readNetlist, solvedMean } from '../../../tests/reference/netlist-reader';
import type { Design } from '../design/design-schema';
import { finish } from '../numeric/finish';
import { signedVolts } from '../quantity/polarity';
import { ladderOfDesign } from '../operating/ladder-of-design';
import { transientOf } from '../transient/transient';
import { netlistOf } from './netlist';

const textOf = (design: Design): string => {
  const netlist = netlistOf(design);
  if (!netlist.ok) throw new Error(netlist.reason);
  return netlist.text;
};

/** The mean at the ladder's terminal by the reader of the tests, V. */
function solvedTerminal(design: Design, text = textOf(design)): number {
  const { network, drive } = ladderOfDesign(design);
  const name = (id: string) => (id === 'ground' ? '0' : id.toLowerCase());
  return solvedMean(readNetlist(text), [name(network.output), name(network.return)], 1 / drive.frequencyHertz);
}

/** The same by the time domain. */
function engineTerminal(design: Design): number {
  const { transient } = finish(transientOf(design));
  return signedVolts(transient.terminalMeanVolts, design.ladder.polarity);
}

describe('a netlist, parsed back and solved elsewhere', () => {
  it.each(['teaching-tripler', 'photomultiplier-bias', 'dust-plate-precipitator'] as const)(
    '%s settles where the time domain has it',
    (name) => {
      const design = demoDesign(name);
      expect(Math.abs(solvedTerminal(design) / engineTerminal(design) - 1)).toBeLessThan(0.005);
    },
  );

  it('a negative ladder, its drive a square behind a resistance', () => {
    const design = benchDesign({
      driver: {
        waveform: 'square',
        positivePeakVolts: 400,
        negativePeakVolts: 300,
        frequencyHertz: 1e3,
        seriesOhms: 200,
      },
      ladder: { stages: 2, polarity: 'negative', capacitor: { farads: 1e-6 } },
      diode: { forwardVolts: 1, onOhms: 5 },
      load: { kind: 'resistance', ohms: 1e6 },
      polarity: 'negative',
    });
    const solved = solvedTerminal(design);
    expect(solved).toBeLessThan(0);
    expect(Math.abs(solved / engineTerminal(design) - 1)).toBeLessThan(0.005);
  });

  it('from nothing as well: what it begins with is no more than a start', () => {
    const design = benchDesign({
      driver: { positivePeakVolts: 100, frequencyHertz: 1e3 },
      ladder: { stages: 1, capacitor: { farads: 1e-6 } },
      diode: { forwardVolts: 0.6, onOhms: 1 },
      load: { kind: 'resistance', ohms: 1e5 },
    });
    const empty = textOf(design).replaceAll(/ IC=\S+/g, '');
    expect(Math.abs(solvedTerminal(design, empty) / engineTerminal(design) - 1)).toBeLessThan(0.005);
  });
});

describe('its lines', () => {
  it('name every part once, and stand in one analysis', () => {
    const design = demoDesign('flocking-applicator');
    const lines = textOf(design).split('\n');
    const { network } = ladderOfDesign(design);
    for (const { id } of [...network.capacitors, ...network.diodes])
      expect(lines.filter((line) => line.startsWith(`${id} `))).toHaveLength(1);
    expect(lines.filter((line) => line.startsWith('.tran'))).toHaveLength(1);
    expect(lines.at(-2)).toBe('.end');
    const names = lines.flatMap((line) => (/^[A-Z]/.test(line) ? [line.split(' ')[0].toLowerCase()] : []));
    expect(new Set(names).size).toBe(names.length);
  });

  it('a recorded waveform and bursts are said to have none', () => {
    const driver = {
      waveform: 'sampled',
      samples: Array.from({ length: 16 }, (_, at) => Math.sin((Math.PI * at) / 8)),
      positivePeakVolts: 1,
      negativePeakVolts: 1,
    };
    expect(netlistOf(benchDesign({ driver }))).toMatchObject({ ok: false });
    expect(netlistOf(benchDesign({ driver: { burstHertz: 0.01 } }))).toMatchObject({ ok: false });
  });
});
