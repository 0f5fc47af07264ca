import { benchDesign } from '../../../tests/reference/bench-design';
import { dischargeOf } from './discharge';
import { judgeDischarge } from './discharge-resistor';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

const run = (volts: number, joules: number, diodePeakAmps = 0) => ({
  samples: [
    { seconds: 0, volts, joules },
    { seconds: 1e-3, volts: volts / 10, joules: joules / 100 },
  ],
  diodePeakAmps,
  joules: { start: joules, end: 0, resistor: joules },
});
const codes = (...of: Parameters<typeof judgeDischarge>) => judgeDischarge(...of).findings.map(({ code }) => code);

it('volts, amperes, watts and joules are those of a resistor across that voltage', () => {
  // 3.2 kV through 200 Ω: 16 A and 51.2 kW by Ohm's law.
  expect(judgeDischarge(run(3200, 5), 200, null)).toMatchObject({ volts: 3200, amps: 16, watts: 51_200, joules: 5 });
  expect(codes(run(3200, 5), 200, null)).toEqual(['resistor-over', 'contact-arcs']);
});

it('one is enough for little, more in series share volts and energy, and many become one made for it', () => {
  expect(codes(run(50, 0.01), 1e3, null)).toEqual([]);
  expect(judgeDischarge(run(2400, 0.1), 1e6, null).findings[0].message).toMatch(/Use 5 of 200\skΩ in series/);
  expect(judgeDischarge(run(400, 7.5), 1e6, null).findings[0].message).toMatch(/Use 8 of 125\skΩ/);
  expect(judgeDischarge(run(60e3, 2), 1e6, null).findings[0].message).toMatch(/one made for 60.0\skV/);
});

it('the resistance offered begins with less than what arcs', () => {
  const { message } = judgeDischarge(run(3200, 0.5), 200, null).findings.find(({ code }) => code === 'contact-arcs')!;
  expect(message).toMatch(/68\.0\skΩ begins with under 50\.0\smA/);
  expect(codes(run(3200, 0.5), 68e3, null)).not.toContain('contact-arcs');
});

it('diodes are held to their surge rating', () => {
  expect(codes(run(400, 0.1, 5), 1e6, 30)).toEqual([]);
  expect(codes(run(400, 0.1, 500), 1e6, 30)).toEqual(['diodes-surge']);
  expect(codes(run(400, 0.1, 500), 1e6, null)).toEqual([]);
});

it('of a real discharge no more goes into the resistor than was stored', () => {
  const design = benchDesign({ ladder: { stages: 2 }, load: { kind: 'resistance', ohms: 2000 } });
  const { nodes } = finish(transientOf(design, 100)).transient;
  const result = dischargeOf(design, new Map(nodes.map(({ id, meanVolts }) => [id, meanVolts])), {
    ohms: 10,
    seconds: 100,
    absorption: 0,
  });
  const { volts, joules } = judgeDischarge(result, 10, null);
  expect(volts).toBe(result.samples[0].volts);
  expect(joules).toBeLessThan(result.joules.start);
  expect(joules).toBeGreaterThan(0.8 * result.joules.start);
});
