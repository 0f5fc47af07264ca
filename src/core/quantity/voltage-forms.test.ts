import { sinePeakVolts, sineVoltsAs, VOLTAGE_FORMS } from './voltage-forms';

it('converts by the handbook factors', () => {
  expect(sinePeakVolts(230, 'rms')).toBeCloseTo(325.27, 2);
  expect(sinePeakVolts(10, 'peak-to-peak')).toBe(5);
  expect(sineVoltsAs(325.27, 'peak-to-peak')).toBeCloseTo(650.54, 2);
});
it('goes back to the same reading', () => {
  for (const form of VOLTAGE_FORMS) expect(sineVoltsAs(sinePeakVolts(12, form), form)).toBeCloseTo(12, 12);
});
