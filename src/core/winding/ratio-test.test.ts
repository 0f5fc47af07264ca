import { readRatioTest } from './ratio-test';

const codes = (readings: number[], seriesVolts: number | null = null) =>
  readRatioTest({ fedVolts: 2, readings, seriesVolts })!
    .findings.map(({ code }) => code)
    .filter((code) => code !== 'test-voltage-live');
const words = (readings: number[]) =>
  readRatioTest({ fedVolts: 2, readings, seriesVolts: null })!.sections.map(({ word }) => word);

it('readings that agree give the ratio by the series reading', () => {
  const reading = readRatioTest({ fedVolts: 2, readings: [40, 41, 39.5], seriesVolts: 119 })!;
  expect(reading.ratio).toBe(59.5);
  expect(reading.sumVolts).toBeCloseTo(120.5, 9);
  expect(reading.sections.map(({ ratio }) => ratio)).toEqual([20, 20.5, 19.75]);
  expect(reading.findings.map(({ code }) => code)).toEqual(['test-voltage-live']);
  expect(readRatioTest({ fedVolts: 0.4, readings: [8, 8.2, 7.9], seriesVolts: 24 })!.findings).toEqual([]);
});

it('without a series reading the sum stands; without a feed or a reading there is nothing', () => {
  expect(readRatioTest({ fedVolts: 2, readings: [40, 40], seriesVolts: null })!.ratio).toBe(40);
  expect(readRatioTest({ fedVolts: 0, readings: [40], seriesVolts: null })).toBeNull();
  expect(readRatioTest({ fedVolts: 2, readings: [], seriesVolts: 80 })).toBeNull();
});

describe('common practice, no source', () => {
  it('four secondaries of 179, 146, 137 and 126 V at 20 V add to a ratio of 29', () => {
    const { ratio, sections } = readRatioTest({ fedVolts: 20, readings: [179, 146, 137, 126], seriesVolts: null })!;
    expect(ratio).toBeCloseTo(29.4, 9);
    expect(sections.map(({ word }) => word)).toEqual(['fits', 'fits', 'fits', 'fits']);
  });

  it('a section far from its neighbours is named, the others are not', () => {
    expect(words([40, 22, 41, 39])).toEqual(['fits', 'low', 'fits', 'fits']);
    expect(words([40, 0.3, 41])).toEqual(['fits', 'none', 'fits']);
    expect(words([40, 60, 41])).toEqual(['fits', 'high', 'fits']);
    expect(words([40, 25])).toEqual(['fits', 'low']);
    expect(codes([40, 22, 41, 39])).toEqual(['section-low']);
  });

  it('a section that counts backwards takes twice its own reading off', () => {
    expect(codes([40, 41, 39.5, 40], 80)).toEqual(['section-reversed']);
    const { findings } = readRatioTest({ fedVolts: 2, readings: [40, 30, 40], seriesVolts: 50 })!;
    expect(findings[0].message).toContain('section 2:');
  });

  it('one that falls out is earthed if it reads right by itself, shorted if it does not', () => {
    const earthed = readRatioTest({ fedVolts: 2, readings: [40, 32, 40], seriesVolts: 80 })!.findings;
    expect(earthed.map(({ code }) => code)).toEqual(['section-falls-out', 'test-voltage-live']);
    expect(earthed[0].message).toMatch(/^Section 2 .*earthed/);
    const shorted = readRatioTest({ fedVolts: 2, readings: [40, 15, 41], seriesVolts: 81 })!.findings;
    expect(shorted.map(({ code }) => code)).toEqual(['section-low', 'section-falls-out', 'test-voltage-live']);
    expect(shorted[1].message).toMatch(/^Section 2 .*shorted/);
  });

  it('a shortfall that no single section explains, and a series above the sum', () => {
    expect(codes([40, 41, 39.5], 105)).toEqual(['series-falls-short']);
    expect(codes([40, 41, 39.5], 140)).toEqual(['series-over-sum']);
  });
});
