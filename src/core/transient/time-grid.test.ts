import { sineDrive } from '../../../tests/reference/drives';
import { driveAt, edgeFraction, meanDriveVolts } from '../drive/drive';
import { timeGrid } from './time-grid';

it('a sine starts at its middle, has its peaks between steps and its short steps about them', () => {
  const grid = timeGrid(sineDrive(10, 50), 100);
  expect(grid.times[grid.steps]).toBeCloseTo(1 / 50, 12);
  const peak = grid.drive.findIndex((volts) => volts === Math.max(...grid.drive));
  expect(grid.times[peak + 1]).toBeCloseTo(1 / 200, 12);
  expect(grid.seconds[peak]).toBeLessThan(grid.seconds[0] / 4);
  expect(grid.drive[grid.steps - 1]).toBeCloseTo(0, 9);
});

it('a pulse stands high for its duty and has short steps after both edges', () => {
  const drive = { ...sineDrive(10, 1), waveform: 'pulse' as const, negativePeakVolts: 3, duty: 0.2 };
  const grid = timeGrid(drive, 100);
  const high = grid.seconds.reduce((sum, length, step) => sum + (grid.drive[step] > 0 ? length : 0), 0);
  expect(high).toBeCloseTo(0.2, 12);
  expect(Math.min(...grid.drive)).toBe(-3);
  grid.afterEdge.forEach((edge, step) => {
    if (edge) expect(grid.seconds[step]).toBeLessThanOrEqual(grid.seconds[step + 1]);
  });
});

it('a sampled waveform is straight between its samples and meets its start again', () => {
  const grid = timeGrid({ ...sineDrive(1, 1), samples: [0, 2, 0, -2] }, 8);
  expect([...grid.drive]).toEqual([1, 2, 1, 0, -1, -2, -1, 0]);
  expect(() => timeGrid({ ...sineDrive(1, 1), samples: [1] }, 8)).toThrow(RangeError);
  expect(() => timeGrid(sineDrive(1, 1), 4)).toThrow(RangeError);
});

it('an edge that takes time is a slope with steps of its own, and leaves the mean as it was', () => {
  const step = { ...sineDrive(10, 1), waveform: 'pulse' as const, negativePeakVolts: 3, duty: 0.4 };
  const sloped = { ...step, edgeSeconds: 0.1 };
  const grid = timeGrid(sloped, 200);
  expect(grid.times[grid.steps]).toBeCloseTo(1, 12);
  expect(grid.afterEdge.includes(1)).toBe(false);
  const at = (time: number) => grid.drive[grid.times.findIndex((end) => end >= time - 1e-12) - 1];
  expect(at(0.05)).toBeCloseTo(3.5, 1);
  for (const time of [0.1, 0.25, 0.4]) expect(at(time)).toBeCloseTo(10, 9);
  expect(at(0.45)).toBeCloseTo(3.5, 1);
  expect(at(0.5)).toBeCloseTo(-3, 12);
  const mean = grid.drive.reduce((sum, volts, place) => {
    const before = place === 0 ? -3 : grid.drive[place - 1];
    return sum + ((volts + before) / 2) * grid.seconds[place];
  }, 0);
  expect(mean).toBeCloseTo(meanDriveVolts(step), 9);
  expect(driveAt(sloped, 0.05)).toBeCloseTo(3.5, 12);
  // No edge takes more than half of the shorter peak's time.
  expect(edgeFraction({ ...sloped, edgeSeconds: 5 })).toBe(0.2);
});
