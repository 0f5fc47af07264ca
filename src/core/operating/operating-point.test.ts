import { benchDesign } from '../../../tests/reference/bench-design';
import { newDesign } from '../design/new-design';
import type { Design } from '../design/design-schema';
import { scaledDrive } from '../drive/drive';
import { inputFaradsOf } from './ladder-of-design';
import { operatingPoint } from './operating-point';

const watts = (design: Design) => {
  const { point, demand, driveScale } = operatingPoint(design);
  return { volts: point?.loadVolts ?? null, watts: demand?.watts ?? null, driveScale };
};
const loaded = (amps: number, driver: object = {}): Design => {
  const plain = newDesign('Works');
  return {
    ...plain,
    driver: { ...plain.driver, positivePeakVolts: 5000, seriesOhms: 0, ...driver },
    load: { kind: 'current', amps },
  } as Design;
};

describe('a drive that has enough', () => {
  it('stands at its full peaks', () => {
    const design = loaded(2e-5);
    const needed = watts(design).watts!;
    expect(watts(design).driveScale).toBe(1);
    // With a hair more than it takes nothing changes.
    expect(watts(loaded(2e-5, { maxWatts: needed * 1.2 }))).toMatchObject({ driveScale: 1 });
  });
});

describe('a drive whose power runs out', () => {
  it.each([0.9, 0.6, 0.3])('settles where the ladder takes %d of what it would, no more and no less', (share) => {
    // Into a resistance power goes about with the square of the peaks, so that there is a state for every limit.
    const design = { ...loaded(0), load: { kind: 'resistance' as const, ohms: 4e8 } };
    const full = operatingPoint(design);
    const limit = share * full.demand!.watts;
    const limited: Design = { ...design, driver: { ...design.driver, maxWatts: limit } as Design['driver'] };
    const { ladder, demand, driveScale, point } = operatingPoint(limited);
    expect(driveScale).toBeGreaterThan(0.5 * Math.sqrt(share));
    expect(driveScale).toBeLessThan(1);
    // What charging the capacitance at its input takes is part of the limit: 2 f C V² for a sine's two peaks (handbook) at most.
    const charging = 2 * ladder.drive.frequencyHertz * inputFaradsOf(ladder) * ladder.drive.positivePeakVolts ** 2;
    expect(demand!.watts).toBeLessThanOrEqual(limit * (1 + 1e-4));
    expect(demand!.watts).toBeGreaterThan(limit - charging - 1e-4 * limit);
    // The output is that of the same ladder on a drive of those lower peaks.
    const lower = operatingPoint({
      ...design,
      driver: { ...design.driver, ...scaledDrive(full.ladder.drive, driveScale) } as never,
    });
    expect(lower.point!.loadVolts / point!.loadVolts).toBeCloseTo(1, 6);
  });
  it('falls further the less power there is, and never rises', () => {
    const scales = [2, 1, 0.5, 0.25, 0.1].map(
      (maxWatts) => watts({ ...loaded(0, { maxWatts }), load: { kind: 'resistance', ohms: 2e8 } }).driveScale,
    );
    for (let at = 1; at < scales.length; at += 1) expect(scales[at]).toBeLessThanOrEqual(scales[at - 1]);
    expect(scales.at(-1)!).toBeLessThan(scales[0]);
  });
  it('gives no figure where a steady current asks for what no peak can give', () => {
    const { point, driveScale } = operatingPoint(loaded(2e-5, { maxWatts: 1e-6 }));
    expect(point).toBeNull();
    expect(driveScale).toBeLessThan(1);
  });
});

it('another count of stages is the design with that count, list of capacitances and all', () => {
  const design = benchDesign({ ladder: { stages: 3 }, load: { kind: 'current', amps: 0.01 } });
  for (const stages of [1, 2, 2.5, 5]) {
    const other = benchDesign({ ladder: { stages }, load: { kind: 'current', amps: 0.01 } });
    expect(operatingPoint(design, stages).point!.loadVolts).toBeCloseTo(operatingPoint(other).point!.loadVolts, 12);
  }
});
