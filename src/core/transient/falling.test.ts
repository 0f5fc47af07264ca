import { benchDesign } from '../../../tests/reference/bench-design';
import { chargedOf } from '../dead/charged';
import { atRest } from '../topology/at-rest';
import { Falling, WINDING, type PartFault } from './falling';

const FARADS = 10e-9;
const STICK_OHMS = 100e6;
const STAGES = [1, 3, 12, 29];

type Follow = { fault?: PartFault | null; constants?: number; firstPart?: number; henries?: number };

/** A charged ladder with the stick on its terminals, followed for so many of its time constants. */
function followed(
  topology: string,
  stages: number,
  forwardVolts: number,
  { fault = null, constants = 1e6, firstPart, henries = 0 }: Follow,
) {
  const design = benchDesign({
    driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3, seriesHenries: henries },
    ladder: { topology, stages, capacitor: { farads: FARADS, ratedVolts: 15e3 } },
    diode: { forwardVolts },
    output: { bleederOhms: 1e14 },
  });
  const { network, volts } = chargedOf(design);
  const clips = [network.output, network.return]
    .filter((node) => node !== 'ground')
    .map((from) => ({ from, to: 'ground', ohms: STICK_OHMS }));
  const seconds = constants * STICK_OHMS * FARADS;
  const falling = new Falling(design, design.output, atRest(network, volts), seconds, { clips, fault });
  let elapsed = 0;
  falling.run(10, (until) => (elapsed = until), firstPart);
  return {
    part: elapsed / seconds,
    leftVolts: Math.max(...falling.capacitorVolts().map(Math.abs)),
    terminalVolts: Math.abs(falling.terminalVolts()),
  };
}

describe.each(['half-wave', 'full-wave', 'bipolar', 'two-ended'])('%s', (topology) => {
  it.each(STAGES)('%d stages: what diodes without drop let through is gone after long, to the last', (stages) => {
    expect(followed(topology, stages, 0, {})).toEqual({
      part: expect.closeTo(1, 9),
      leftVolts: expect.closeTo(0, 9),
      terminalVolts: expect.closeTo(0, 9),
    });
  });

  // Diodes that stand at their own drop are neither open nor closed: there steps are the hardest to solve.
  it.each(STAGES)('%d stages: is followed to the end with diodes at their drop, and with a part failed', (stages) => {
    const faults: (PartFault | null)[] = [
      null,
      { part: 'D1', how: 'open' },
      { part: `D${stages}`, how: 'shorted' },
      { part: 'C1', how: 'shorted' },
      { part: WINDING, how: 'open' },
    ];
    for (const fault of faults) {
      const { part, terminalVolts } = followed(topology, stages, 20, { fault });
      expect(part).toBeCloseTo(1, 9);
      expect(terminalVolts).toBeLessThan(0.1);
    }
  });

  it.each(STAGES)('%d stages: a first step too short for anything to move is taken with the next', (stages) => {
    const usual = followed(topology, stages, 0, { constants: 0.3, henries: 0.1 });
    const short = followed(topology, stages, 0, { constants: 0.3, henries: 0.1, firstPart: 1e-16 });
    expect(short.part).toBeCloseTo(1, 9);
    expect(short.terminalVolts / usual.terminalVolts).toBeCloseTo(1, 3);
  });
});
