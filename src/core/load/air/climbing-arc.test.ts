import { airSchema } from './air';
import { arcLaw, climbing, climbingArcSchema, longestArc, type LongestArc, type SupplyPoint } from './climbing-arc';

const AIR = airSchema.parse({});
/** A source of a voltage behind a resistance: what it leaves at each current. */
const behind = (volts: number, ohms: number): SupplyPoint[] =>
  Array.from({ length: 200 }, (_, at) => ({ amps: (volts / ohms / 200) * at, volts: volts * (1 - at / 200) }));

describe('the law of an arc', () => {
  // H. Ayrton, The Electric Arc, 1902: V = 38.88 + 2.074 l + (11.66 + 10.54 l) / A (from memory).
  it.each([
    [2, 10, 4, 38.88 + 8.296 + (11.66 + 42.16) / 10],
    [2, 2, 1, 38.88 + 2.074 + (11.66 + 10.54) / 2],
    [2, 30, 7, 38.88 + 14.518 + (11.66 + 73.78) / 30],
  ])('has Ayrton’s volts', (_, amps, millimetres, volts) => {
    const { endsVolts, voltsPerMetre } = arcLaw(amps)!;
    expect(endsVolts + (voltsPerMetre * millimetres) / 1e3).toBeCloseTo(volts, 6);
  });

  it('joins hers at 2 A, takes more the thinner the arc, and says nothing outside', () => {
    expect(arcLaw(2 - 1e-9)!.voltsPerMetre / arcLaw(2)!.voltsPerMetre).toBeCloseTo(1, 6);
    const fields = [5e-3, 0.02, 0.1, 0.5, 1.9, 2, 5, 30].map((amps) => arcLaw(amps)!.voltsPerMetre);
    expect(fields).toEqual([...fields].sort((one, other) => other - one));
    // What those who draw arcs of some 30 mA find: 30 to 100 V for each millimetre (common practice, no source).
    const { voltsPerMetre, factor } = arcLaw(0.03)!;
    expect([voltsPerMetre / factor < 30e3, voltsPerMetre * factor > 100e3]).toEqual([true, true]);
    expect([arcLaw(4.9e-3), arcLaw(31)]).toEqual([null, null]);
  });
});

describe('the longest arc that a supply keeps', () => {
  it('takes all the voltage that is left there, and no other current keeps a longer one', () => {
    const line = behind(15e3, 250e3);
    const { metres, amps, volts, watts, atEnd } = longestArc(line) as LongestArc;
    const law = arcLaw(amps)!;
    expect(law.endsVolts + law.voltsPerMetre * metres.likely).toBeCloseTo(volts, 6);
    expect(watts).toBeCloseTo(amps * volts, 9);
    expect(atEnd).toBe(false);
    for (const point of line) {
      const there = arcLaw(point.amps);
      if (there)
        expect((point.volts - there.endsVolts) / there.voltsPerMetre).toBeLessThanOrEqual(metres.likely + 1e-12);
    }
    // 15 kV and 60 mA in a short: some 10 to 15 cm (common practice, no source).
    expect(metres.likely).toBeGreaterThan(0.1);
    expect(metres.likely).toBeLessThan(0.25);
  });

  it('says why there is none: too little current, too much of it, no voltage, nothing known', () => {
    expect(longestArc(behind(40e3, 40e6))).toEqual({ why: 'current', mostAmps: expect.closeTo(0.995e-3, 6) });
    expect(longestArc([{ amps: 40, volts: 100 }])).toEqual({ why: 'law', leastAmps: 40 });
    expect(longestArc(behind(200, 100))).toEqual({ why: 'volts' });
    expect(longestArc([])).toEqual({ why: 'unknown' });
    expect(longestArc([{ amps: 0, volts: 20e3 }])).toEqual({ why: 'current', mostAmps: 0 });
  });

  it('says where what is known of the supply ends before the best is reached', () => {
    expect(longestArc(behind(15e3, 250e3).slice(0, 30))).toMatchObject({ atEnd: true });
  });
});

describe('two rods', () => {
  const rods = climbingArcSchema.parse({ rodMetres: 4e-3, startGapMetres: 6e-3, topGapMetres: 0.08 });
  const longest = longestArc(behind(15e3, 250e3));

  it('start at what they break down at, for sure only over all of its band', () => {
    const { startVolts } = climbing(rods, 15e3, longest, AIR);
    if ('at' in startVolts) throw new Error(startVolts.reason);
    const [least, most] = [startVolts.least!, startVolts.most!];
    const at = (volts: number) => climbing(rods, volts, longest, AIR).starts;
    expect([at(least * 0.99), at((least + most) / 2), at(most * 1.01)]).toEqual(['no', 'perhaps', 'yes']);
  });

  it('keep the arc to the top where even the least of the band is longer than the gap there', () => {
    const { outMetres } = climbing(rods, 15e3, longest, AIR);
    const topped = (topGapMetres: number) => climbing({ ...rods, topGapMetres }, 15e3, longest, AIR).stays;
    expect([topped(outMetres!.least * 0.99), topped(outMetres!.likely), topped(outMetres!.most * 1.01)]).toEqual([
      'yes',
      'perhaps',
      'no',
    ]);
  });

  it('that do not part have nothing to climb', () => {
    const level = climbing({ ...rods, topGapMetres: rods.startGapMetres }, 15e3, longest, AIR);
    expect([level.stays, level.topFault]).toEqual([null, expect.stringContaining('Must be more')]);
    expect(climbing(rods, 15e3, longest, AIR).topFault).toBeNull();
  });

  it('have no start for a gap outside the law, and no end without an arc', () => {
    const wide = climbing({ ...rods, startGapMetres: 0.02 }, 15e3, { why: 'volts' }, AIR);
    expect(wide).toMatchObject({ startVolts: { at: 'gapMetres' }, starts: null, outMetres: null, stays: null });
  });
});
