import { changeDesign } from '../../design/change-design';
import { dividerSchema, type Design } from '../../design/design-schema';
import { newDesign } from '../../design/new-design';
import { readDesign } from '../../design/read-design';
import { driverOfKind, type DriverKindId } from '../../drive/driver-kinds';
import { driveOf } from '../../operating/ladder-of-design';
import { partSchema, type Part } from '../../parts/part-schema';
import { capacitorValues, diodeValues } from '../part-values';
import { predict } from '../../predict/predict';
import { editDesign } from '../edit-design';
import { partsUsed } from '../parts-used';
import { choicesFor, placed } from './places';
import { partIdAt, placeOf } from './places-of';

let made = 0;
const part = (fields: object): Part =>
  partSchema.parse({
    id: `30000000-0000-4000-8000-${String((made += 1)).padStart(12, '0')}`,
    name: `P${made}`,
    ...fields,
  });
const plain = newDesign('Places');
const driven = (kind: DriverKindId): Design => ({ ...plain, ...driverOfKind(kind, plain, driveOf(plain)) });
const put = (design: Design, id: string, one: Part) => {
  const place = placeOf(design, id);
  return place && placed(design, place, one, predict(design));
};
const partAt = (design: Design, id: string) => partIdAt(design, placeOf(design, id)!);

describe('resistors', () => {
  const long = part({ kind: 'resistor', ohms: 100e6, watts: 0.5, ratedVolts: 1000, pulseJoules: 2, count: 12 });
  it('a bleeder is made of so many that bodies and watts carry it with a quarter in hand', () => {
    const { design, count } = put(plain, 'bleeder', long)!;
    const { margins, output } = predict(design);
    expect(design.output.bleederOhms).toBe(count * 100e6);
    const own = margins.filter(({ id }) => id.startsWith('bleeder'));
    expect(own.map(({ id }) => id).sort()).toEqual(['bleederPower', 'bleederVoltage']);
    for (const { margin } of own) expect(margin).toBeGreaterThanOrEqual(0.25 - 1e-9);
    expect(output.noLoadVolts / (count - 1)).toBeGreaterThan(1000 / 1.25);
    expect(partsUsed(design).get(long.id)).toBe(count);
  });
  it('comes nearest the resistance there is, and a value typed over it leaves the part there', () => {
    const wanted = { ...plain, output: { ...plain.output, seriesOhms: 950e6 } };
    const { design, words } = put(wanted, 'series', long)!;
    expect([design.output.seriesOhms, words.replace(/\s/g, ' ')]).toEqual([1000e6, '10 in series, 1.00 GΩ']);
    expect(partAt(design, 'series')).toBe(long.id);
    const typed = editDesign(design, { path: '$.output.seriesOhms', value: 5e6 });
    expect(partAt(typed, 'series')).toBeNull();
    expect(partsUsed(typed).has(long.id)).toBe(false);
  });
  it('a divider’s string is made of so many that each stands its part, reserved and left again as the others are', () => {
    expect(put(plain, 'divider', long)).toBeNull();
    const divider = dividerSchema.parse({ topOhms: 1e9, footOhms: 1e6 });
    const { design, words } = put({ ...plain, output: { ...plain.output, divider } }, 'divider', long)!;
    expect(words.replace(/\s/g, ' ')).toBe('10 in series, 1.00 GΩ');
    expect(design.output.divider).toEqual({
      ...divider,
      topOhms: 1e9,
      topCount: 10,
      topRatedVolts: 1000,
      topWatts: 0.5,
      partId: long.id,
    });
    const each = predict(design).margins.find(({ id }) => id === 'dividerVoltage')!;
    expect(each.stress).toBeCloseTo(predict(design).divider!.voltsEach, 9);
    expect(each.margin).toBeGreaterThanOrEqual(0.25 - 1e-9);
    expect(partsUsed(design).get(long.id)).toBe(10);
    const typed = editDesign(design, { path: '$.output.divider.topOhms', value: 2e9 });
    expect(partAt(typed, 'divider')).toBeNull();
  });
  it('are not offered where a hundred do not carry it, or where they come to quite another resistance', () => {
    const small = part({ kind: 'resistor', ohms: 470, watts: 2, ratedVolts: 350 });
    expect(put(plain, 'bleeder', small)).toBeNull();
    const wanted = { ...plain, output: { ...plain.output, seriesOhms: 10e3 } };
    expect(put(wanted, 'series', long)).toBeNull();
    expect(put(wanted, 'series', small)!.design.output.seriesOhms).toBe(21 * 470);
  });
  it('a pulse into the series resistor is what is stored, shared among its bodies', () => {
    const { design, count } = put({ ...plain, output: { ...plain.output, seriesOhms: 1e8 } }, 'series', long)!;
    const { margins, energy } = predict(design);
    expect(margins.find(({ id }) => id === 'seriesPulse')).toMatchObject({
      stress: energy.joules / count,
      rated: 2,
      condition: 'shortedOutput',
    });
  });
});

describe('what drives the ladder', () => {
  it('a module gives its figures to the driver, and is one taken', () => {
    const board = part({ kind: 'module', openVolts: 4000, frequencyHertz: 33e3, maxWatts: 15 });
    const { design } = put(driven('module'), 'module', board)!;
    expect(design.driver).toMatchObject({ openVolts: 4000, frequencyHertz: 33e3, maxWatts: 15, maxAmps: null });
    expect(partsUsed(design).get(board.id)).toBe(1);
    expect(put(plain, 'module', board)).toBeNull();
    expect(partAt(editDesign(design, { path: '$.driver.openVolts', value: 3900 }), 'module')).toBeNull();
  });
  it('a mains transformer is taken as often as the driver has it', () => {
    const iron = part({ kind: 'transformer', secondaryVolts: 1450, secondaryOhms: 900, shortAmps: 0.02 });
    const mains = changeDesign(driven('mains'), { path: '$.driver.count', value: 2 });
    const { design } = put(mains, 'mains', iron)!;
    expect(design.driver).toMatchObject({ secondaryVolts: 1450, secondaryOhms: 900, shortAmps: 0.02 });
    expect(partsUsed(design).get(iron.id)).toBe(2);
    expect(put(mains, 'mains', part({ kind: 'transformer', ratio: 60 }))).toBeNull();
  });
  it('a transformer keeps the primary’s turns and brings its ratio, a core its area', () => {
    const [wound, iron] = [
      part({ kind: 'transformer', ratio: 60, primaryHenries: 70e-6, secondaryOhms: 420 }),
      part({ kind: 'core', squareMetres: 110e-6, saturationTesla: 0.35 }),
    ];
    const flyback = driven('flyback');
    const { design } = put(put(flyback, 'transformer', wound)!.design, 'core', iron)!;
    expect(design.transformer!.secondaryTurns / design.transformer!.primaryTurns).toBeCloseTo(60, 9);
    expect(design.transformer).toMatchObject({
      primaryHenries: 70e-6,
      coreSquareMetres: 110e-6,
      saturationTesla: 0.35,
    });
    expect([...partsUsed(design)]).toEqual([
      [wound.id, 1],
      [iron.id, 1],
    ]);
    expect(readDesign(JSON.parse(JSON.stringify(design))).ok).toBe(true);
  });
});

it('choices: enough of them first, fewest first among those, others’ parts not counted as free', () => {
  const [few, short, many] = [
    part({ kind: 'capacitor', farads: 1e-9, ratedVolts: 1500, count: 40 }),
    part({ kind: 'capacitor', farads: 2e-9, ratedVolts: 10e3, count: 5 }),
    part({ kind: 'capacitor', farads: 1e-9, ratedVolts: 8e3, count: 9 }),
  ];
  const uses = [{ designId: 'x', designName: 'X', partId: short.id, count: 3 }];
  const choices = choicesFor(
    plain,
    placeOf(plain, 'capacitor')!,
    predict(plain),
    [few, short, many, part({ kind: 'resistor', ohms: 1 })],
    uses,
  );
  expect(choices.map(({ part: one, wanted, free }) => [one.id, wanted, free])).toEqual([
    [many.id, 4, 9],
    [few.id, 8, 40],
    [short.id, 4, 2],
  ]);
  expect(choices[1].words).toBe('2 in series carry it');
});

describe('in the driver and its transformer', () => {
  it('transistors: as many as the driver switches with, none that does not block what they must', () => {
    const fet = part({ kind: 'transistor', ratedVolts: 400, onOhms: 0.2, gateThresholdVolts: 3, count: 6 });
    for (const [kind, count] of [
      ['resonant-push-pull', 2],
      ['flyback', 1],
      ['inverter', 4],
      ['blocking-oscillator', 1],
    ] as const) {
      const { design } = put(driven(kind), 'transistor', fet)!;
      expect(partsUsed(design).get(fet.id)).toBe(count);
      expect(predict(design).margins.find(({ id }) => id === 'transistorVoltage')!.rated).toBe(400);
      expect(partAt(editDesign(design, { path: '$.driver.ratedVolts', value: 100 }), 'transistor')).toBeNull();
    }
    expect(put(driven('resonant-push-pull'), 'transistor', fet)!.design.driver).toMatchObject({
      transistorOhms: 0.2,
      gateThresholdVolts: 3,
    });
    const weak = part({ kind: 'transistor', ratedVolts: 12 });
    expect(put(driven('flyback'), 'transistor', weak)).toBeNull();
    expect(put(plain, 'transistor', fet)).toBeNull();
  });
  it('a tank’s bank carries its peak and its current with a quarter in hand, near the capacitance there was', () => {
    const design = driven('resonant-push-pull');
    if (design.driver.kind !== 'resonant-push-pull') throw new Error('a push-pull only');
    const { tankFarads } = design.driver;
    const film = part({ kind: 'capacitor', farads: tankFarads, ratedVolts: 63, ratedRmsAmps: 4, count: 40 });
    const { design: made, count } = put(design, 'tank', film)!;
    expect(partsUsed(made).get(film.id)).toBe(count);
    const own = predict(made).margins.filter(({ id }) => id.startsWith('tank'));
    expect(own.map(({ id }) => id).sort()).toEqual(['tankCurrent', 'tankVoltage']);
    // A little short of a quarter where the bank's capacitance, and with it the current, is a little more than it was.
    for (const { margin } of own) expect(margin).toBeGreaterThan(0.25 / 1.5);
    expect(partAt(editDesign(made, { path: '$.driver.tankFarads', value: 1e-6 }), 'tank')).toBeNull();
    expect(put(design, 'tank', part({ kind: 'capacitor', farads: 1e-12, ratedVolts: 400 }))).toBeNull();
  });
  it('the primary’s wire comes in as many strands as its current asks for', () => {
    const design = driven('resonant-push-pull');
    const wire = part({ kind: 'wire', wireMetres: 0.3e-3 });
    const { design: made, words } = put(design, 'primary', wire)!;
    const { strands } = made.winding!.primary;
    expect(words).toContain(`${strands} strands`);
    const of = (one: Design) => predict(one).margins.find(({ id }) => id === 'primaryCurrent')!.margin;
    expect(of(made)).toBeGreaterThanOrEqual(0);
    expect(of(changeDesign(made, { path: '$.winding.primary.strands', value: strands - 1 }))).toBeLessThan(0);
    expect(partsUsed(made).get(wire.id)).toBe(1);
    expect(partAt(editDesign(made, { path: '$.winding.primary.wireMetres', value: 1e-3 }), 'primary')).toBeNull();
    expect(put(plain, 'primary', wire)).toBeNull();
  });
});

it('any value taken from a part and typed over leaves the part there', () => {
  const disc = part({ kind: 'capacitor', farads: 1e-9, ratedVolts: 15e3, lossTangent: 0.01 });
  const stick = part({ kind: 'diode', peakInverseVolts: 20e3 });
  for (const [place, one, values] of [
    ['capacitor', disc, capacitorValues(disc as Extract<Part, { kind: 'capacitor' }>)],
    ['diode', stick, diodeValues(stick as Extract<Part, { kind: 'diode' }>)],
  ] as const) {
    const { design } = put(plain, place, one)!;
    expect(design.ladder[place]).toMatchObject(values);
    for (const field of Object.keys(values))
      expect([field, partAt(editDesign(design, { path: `$.ladder.${place}.${field}`, value: 0.5 }), place)]).toEqual([
        field,
        null,
      ]);
  }
});
