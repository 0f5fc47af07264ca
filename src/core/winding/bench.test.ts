import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { driverOfKind } from '../drive/driver-kinds';
import { newDesign } from '../design/new-design';
import { windingSchema } from '../design/winding-schema';
import { driveOf } from '../operating/ladder-of-design';
import { predict } from '../predict/predict';
import { benchOf, calculateCore, calculateInductances, calculateSecondary, tankTable } from './bench';

const plain = newDesign('Bench');
const started: Design = { ...plain, ...driverOfKind('resonant-push-pull', plain, driveOf(plain)) };
/** Ten turns make the sums easy. */
const pushPull = changeDesign(started, { path: '$.transformer.primaryTurns', value: 10 });
const winding = windingSchema.parse({ primary: { wireMetres: 0.5e-3 }, secondary: { wireMetres: 0.1e-3 } });
/** The same with a secondary of many layers. */
const steep = changeDesign(pushPull, { path: '$.transformer.secondaryTurns', value: 1200 });
const change = (design: Design, path: string, value: unknown) => changeDesign(design, { path, value });

const around = (design: Design) => benchOf(design, predict(design))!;

const flux = (design: Design) => predict(design).source.figures.fluxTesla!;

it.each(['resonant-push-pull', 'flyback', 'blocking-oscillator', 'inverter'] as const)(
  '%s: the fewest turns bring the flux density just under the one chosen',
  (kind) => {
    const design: Design = { ...plain, ...driverOfKind(kind, plain, driveOf(plain)) };
    const { leastTurns } = calculateCore(winding, around(design));
    // Turns alone: with the linkage as it is, the density goes with one over turns.
    const { primaryTurns } = design.transformer!;
    const density = (turns: number) => (flux(design) * primaryTurns) / turns;
    expect(density(leastTurns!)).toBeLessThanOrEqual(winding.core.workingTesla * (1 + 1e-9));
    expect(density(leastTurns! - 1)).toBeGreaterThan(winding.core.workingTesla);
  },
);

it('a tank capacitor of the table makes the frequency that the table says', () => {
  const reflected = predict(pushPull).source.figures.reflectedFarads!;
  const table = tankTable(pushPull.transformer!.primaryHenries!, reflected);
  expect(table.map(({ farads }) => farads * 1e9)).toEqual(expect.arrayContaining([100, 220, 470, 680, 1000]));
  for (const { farads, hertz } of table.slice(0, 3))
    expect(predict(change(pushPull, '$.driver.tankFarads', farads)).drive.frequencyHertz / hertz).toBeCloseTo(1, 6);
});

it('core: AL, the inductance by turns, and the gap that gives the one entered', () => {
  const known = change(pushPull, '$.transformer.corePathMetres', 0.1);
  const core = { ...winding.core, workingTesla: 0.35 };
  const ungapped = calculateCore({ ...winding, core }, around(known));
  // mu0 2000 120 mm2 / 100 mm = 3.016 uH a turn squared, by hand.
  expect(ungapped.inductanceFactor).toBeCloseTo(3.016e-6, 9);
  expect(ungapped.primaryHenries).toBeCloseTo(301.6e-6, 7);
  expect(ungapped.findings.map(({ code }) => code)).toContain('inductances-apart');
  const gapped = calculateCore({ ...winding, core: { ...core, gapMetres: ungapped.wantedGapMetres! } }, around(known));
  expect(gapped.primaryHenries! / pushPull.transformer!.primaryHenries!).toBeCloseTo(1, 9);
  expect(gapped.findings).toEqual([]);
});

it('a full window and too few turns are said', () => {
  const tight = { ...winding, core: { ...winding.core, windowSquareMetres: 20e-6, workingTesla: 0.02 } };
  const { fillWord, findings } = calculateCore(tight, around(steep));
  expect(fillWord).toBe('over');
  expect(findings.map(({ code }) => code)).toEqual(['too-few-turns', 'window-full']);
});

it('the secondary rings lower the more capacitance hangs on it, and by the ladder’s own share', () => {
  const at = (design: Design) => calculateSecondary(winding, around(design)).rings!;
  const before = at(steep);
  expect(before.withLadderHertz).toBeLessThan(before.openHertz);
  const { layers } = calculateSecondary(winding, around(steep));
  const { ladderFarads } = around(steep);
  const own = layers!.farads;
  expect(own).toBeGreaterThan(1e-12);
  expect((before.openHertz / before.withLadderHertz) ** 2).toBeCloseTo(1 + ladderFarads / own, 6);
  expect(before.leakageHertz! / before.withLadderHertz).toBeCloseTo(1 / Math.sqrt(1 - 0.97 ** 2), 6);
  const heavier = change(steep, '$.ladder.diode', { ...steep.ladder.diode, junctionFarads: 20e-12 });
  expect(at(heavier).withLadderHertz).toBeLessThan(before.withLadderHertz);
});

it('leakage that rings near the drive is said', () => {
  const loose = change(change(steep, '$.transformer.coupling', 0.6), '$.ladder.strayFarads', 200e-12);
  expect(calculateSecondary(winding, around(loose)).findings.map(({ code }) => code)).toContain('leakage-rings-near');
  expect(calculateSecondary(winding, around(steep)).findings.map(({ code }) => code)).not.toContain(
    'leakage-rings-near',
  );
});

it('inductances: what is missing stays unknown, a shorted reading above the open one is refused', () => {
  const of = (inductance: object) => calculateInductances(windingSchema.parse({ inductance }));
  expect(of({})).toEqual({ ratio: null, coupling: null, shortedTooHigh: false, resonantHenries: null });
  expect(of({ primaryHenries: 30e-6, secondaryHenries: 0.3 }).ratio).toBeCloseTo(100, 9);
  expect(of({ secondaryHenries: 0.3, shortedHenries: 0.4 })).toMatchObject({ coupling: null, shortedTooHigh: true });
  expect(of({ resonanceFarads: 470e-9, resonanceHertz: 40e3 }).resonantHenries).toBeCloseTo(33.68e-6, 8);
});
