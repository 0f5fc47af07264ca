import { newDesign } from '../design/new-design';
import { capacitorHeat, diodeHeat, ratedDiodeWatts } from './heat';
import { ladderParts } from '../parts/bank';

const { ladder } = newDesign('Heat');
const lossy = {
  ...ladder.capacitor,
  farads: 1e-9,
  lossTangent: 0.02,
  lengthMetres: 8e-3,
  diameterMetres: 12e-3,
};
const heatOf = (capacitor: typeof lossy, rmsAmps: number | null) => {
  const place = ladderParts({ ...ladder, capacitor }).capacitor;
  return capacitorHeat(capacitor, place, place.farads, rmsAmps, 40e3);
};

it('a capacitor by hand: tan d times volts times amperes', () => {
  // 10 mA through 1 nF at 40 kHz: 39.79 V, 0.3979 VA, of it 2 %.
  const { watts, temperatureRiseKelvin } = heatOf(lossy, 10e-3)!;
  expect(watts).toBeCloseTo(7.958e-3, 6);
  // Mantle and both ends: pi 12 8 + 2 pi 36 = 527.8 mm2, at 10 W / m2 K.
  expect(temperatureRiseKelvin).toBeCloseTo(7.958e-3 / (10 * 527.8e-6), 3);
  expect(heatOf({ ...lossy, lengthMetres: null as never }, 10e-3)).toEqual({ watts, temperatureRiseKelvin: null });
  expect(heatOf({ ...lossy, lossTangent: null as never }, 10e-3)).toBeNull();
  expect(heatOf(lossy, null)).toBeNull();
});

it('a bank of like ones shares volts and amperes: each takes its part of the heat', () => {
  const one = heatOf({ ...lossy, tolerance: 1e-9 }, 10e-3)!.watts;
  const bank = heatOf({ ...lossy, tolerance: 1e-9, series: 3, parallel: 2 }, 10e-3)!.watts;
  // Half the current through each of six: a quarter of the heat each.
  expect(bank / one).toBeCloseTo(1 / 4, 6);
});

it('the current of a bank: every corner of the tolerances', () => {
  const tolerance = 0.1;
  for (const parallel of [2, 3, 5]) {
    const { currentShare } = ladderParts({
      ...ladder,
      capacitor: { ...ladder.capacitor, tolerance, parallel },
    }).capacitor;
    let most = 0;
    for (let corner = 0; corner < 2 ** parallel; corner += 1) {
      const each = Array.from({ length: parallel }, (_, at) => 1 + (corner & (1 << at) ? tolerance : -tolerance));
      const all = each.reduce((sum, one) => sum + one, 0);
      most = Math.max(most, ...each.map((one) => one / all));
    }
    expect(currentShare).toBeCloseTo(most, 12);
  }
});

it('a diode by hand: drop, resistance, and at most charge times voltage of recovery', () => {
  const diode = { ...ladder.diode, forwardVolts: 20, onOhms: 100, series: 2, averageAmps: 5e-3 };
  const current = { rmsAmps: 4e-3, forwardCoulombs: 30e-9, recoveredCoulombs: 2e-9, recoveredVolts: 1000 };
  const { watts, recoveryWatts } = diodeHeat(diode, current, 30e3)!;
  expect(recoveryWatts).toBeCloseTo(30e-3, 12);
  expect(watts).toBeCloseTo(30e3 * 30e-9 * 20 + 1.6e-3 + 30e-3, 12);
  // 5 mA through 20 V, and 5 pi / 2 mA squared through 100 ohms.
  expect(ratedDiodeWatts(diode)).toBeCloseTo(0.1 + 6.169e-3, 6);
  expect(ratedDiodeWatts({ ...diode, forwardVolts: 0, onOhms: 0 })).toBeNull();
  expect(diodeHeat(diode, { ...current, rmsAmps: null }, 30e3)).toBeNull();
});
