import { newDesign } from '../design/new-design';
import type { Design } from '../design/design-schema';
import { driverOfKind } from '../design/driver-of-kind';
import { driveOf } from '../predict/ladder-of-design';
import { predict } from '../predict/predict';

const plain = newDesign('Margins');
const withOutput = (
  output: Partial<Design['output']>,
  resistors: { [name in keyof Design['resistors']]?: Partial<Design['resistors']['series']> } = {},
  amps = 1e-4,
): Design => ({
  ...plain,
  output: { ...plain.output, ...output },
  resistors: {
    series: { ...plain.resistors.series, ...resistors.series },
    bleeder: { ...plain.resistors.bleeder, ...resistors.bleeder },
  },
  load: { kind: 'current', amps },
});
const marginFor = (design: Design, part: string, what: string) =>
  predict(design).margins.find((one) => one.part.startsWith(part) && one.what === what)!;

it('weakest first, and the smallest of all is the design’s', () => {
  const { margins, smallestMargin } = predict(withOutput({}));
  const values = margins.map(({ margin }) => margin);
  expect(values).toEqual([...values].sort((a, b) => a - b));
  expect(smallestMargin).toBe(values[0]);
  expect(margins.map(({ part }) => part.split(' ')[0])).toEqual(expect.arrayContaining(['Capacitors', 'Diodes']));
});

it('a bleeder by hand: V^2 / R over its resistors, all of the no-load voltage over their bodies', () => {
  const design = withOutput({ bleederOhms: 100e6 }, { bleeder: { count: 4, watts: 0.5, bodyVolts: 1500 } });
  const volts = predict(design).output.noLoadVolts;
  expect(marginFor(design, 'Bleeder', 'power').stress).toBeCloseTo(volts ** 2 / 100e6 / 4, 12);
  expect(marginFor(design, 'Bleeder', 'over its body')).toMatchObject({ stress: volts / 4, case: 'no load' });
  const thin = withOutput({ bleederOhms: 100e6 }, { bleeder: { count: 1, watts: 0.5, bodyVolts: 1500 } });
  expect(predict(thin).findings.map(({ code }) => code)).toContain('resistor-over-rating');
  expect(predict(design).findings.map(({ code }) => code)).not.toContain('resistor-over-rating');
});

it('a series resistor: I^2 R at the load, the whole output when that is shorted', () => {
  const design = withOutput({ seriesOhms: 1e6 }, { series: { count: 2, watts: 2, bodyVolts: 3500 } }, 2e-4);
  expect(marginFor(design, 'Series', 'power').stress).toBeCloseTo((2e-4 ** 2 * 1e6) / 2, 12);
  expect(marginFor(design, 'Series', 'over its body')).toMatchObject({
    case: 'shorted output',
    stress: predict(design).output.noLoadVolts / 2,
  });
  expect(predict(withOutput({ seriesOhms: 1e6 })).margins.some(({ part }) => part === 'Series resistor')).toBe(false);
});

it('what is rated in driver and transformer stands among them', () => {
  const driven: Design = { ...plain, ...driverOfKind('resonant-push-pull', plain, driveOf(plain)) };
  const { margins, source } = predict(driven);
  const flux = source.figures.find(({ key }) => key === 'flux')!.value;
  expect(margins.find(({ part }) => part === 'Core')).toMatchObject({ stress: flux, rated: 300, unit: 'mT' });
  expect(margins.map(({ part }) => part)).toEqual(expect.arrayContaining(['Transistor', 'Gate resistor']));
});
