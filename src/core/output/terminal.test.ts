import fc from 'fast-check';
import { sineDrive } from '../../../tests/reference/drives';
import { halfWaveNetwork } from '../topology/half-wave';
import { closedFormAmps, loadedLadder } from '../ladder/loaded';
import { loadOfKind, type Load } from '../load/load-kinds';
import { workingPoint } from './terminal';

const ladder = loadedLadder(halfWaveNetwork(4, 1e-9), sineDrive(3000, 30e3, 3000), {
  forwardVolts: 10,
  strayFarads: 1e-12,
  onOhms: 0,
});

const ohms = (from: number, to: number) =>
  fc.double({ min: Math.log10(from), max: Math.log10(to), noNaN: true }).map((power) => 10 ** power);
const loads = fc.oneof(
  fc.constant<Load>({ kind: 'open' }),
  fc.double({ min: 0, max: 1e-4, noNaN: true }).map((amps): Load => ({ kind: 'current', amps })),
  ohms(1e8, 1e12).map((value): Load => ({ kind: 'resistance', ohms: value })),
);
const outputs = fc.record({
  seriesOhms: fc.oneof(fc.constant(0), ohms(1e3, 1e7)),
  bleederOhms: fc.oneof(fc.constant(null), ohms(3e8, 1e12)),
});

it('Kirchhoff holds at the terminal and Ohm in every resistor', () => {
  fc.assert(
    fc.property(loads, outputs, (load, output) => {
      const point = workingPoint(ladder, load, output)!;
      expect(point.ladderAmps).toBeCloseTo(point.loadAmps + point.bleederAmps + point.dividerAmps, 12);
      expect(point.terminalVolts).toBeCloseTo(ladder.unloaded.outputVolts - point.droop.totalVolts, 9);
      expect(point.loadVolts).toBeCloseTo(point.terminalVolts - point.loadAmps * output.seriesOhms, 9);
      if (output.bleederOhms !== null)
        expect((point.bleederAmps * output.bleederOhms) / point.terminalVolts).toBeCloseTo(1, 9);
      if (load.kind === 'resistance') expect((point.loadAmps * load.ohms) / point.loadVolts).toBeCloseTo(1, 9);
      if (load.kind === 'current') expect(point.loadAmps).toBe(load.amps);
    }),
  );
});

it('has no figure where the load asks for more than the closed form covers', () => {
  const most = closedFormAmps(ladder);
  const none = { seriesOhms: 0, bleederOhms: null };
  expect(workingPoint(ladder, { kind: 'current', amps: most * 1.01 }, none)).toBeNull();
  expect(workingPoint(ladder, { kind: 'current', amps: most * 0.99 }, none)).not.toBeNull();
  expect(workingPoint(ladder, { kind: 'resistance', ohms: 1e3 }, none)).toBeNull();
  expect(workingPoint(ladder, { kind: 'open' }, { seriesOhms: 0, bleederOhms: 1e3 })).toBeNull();
});

it('has no figure where the series resistor would take more than the terminal has', () =>
  expect(workingPoint(ladder, { kind: 'current', amps: 1e-4 }, { seriesOhms: 1e9, bleederOhms: null })).toBeNull());

it('a load of another kind draws about the same', () => {
  const output = { seriesOhms: 1e5, bleederOhms: 1e10 };
  const before = workingPoint(ladder, { kind: 'current', amps: 47e-6 }, output)!;
  const drawn = { amps: before.loadAmps, volts: before.loadVolts };
  const resistance = loadOfKind('resistance', drawn);
  expect(workingPoint(ladder, resistance, output)!.loadAmps / before.loadAmps).toBeCloseTo(1, 2);
  expect(loadOfKind('current', drawn)).toEqual({ kind: 'current', amps: 47e-6 });
  expect(loadOfKind('open', drawn)).toEqual({ kind: 'open' });
});
