import { secondaryLayers, windowFill, type SecondaryPlan } from './secondary-plan';
import { enamelledMetres } from '../magnetics/wire';

const plan: SecondaryPlan = {
  turns: 1200,
  peakVolts: 6000,
  wireMetres: 0.1e-3,
  widthMetres: 20e-3,
  innerMetres: 15e-3,
  pots: 1,
  insulationMetres: 50e-6,
  relativePermittivity: 3,
  turning: 'back-and-forth',
  heightMetres: null,
};

it('turns, layers and wire by hand', () => {
  const layers = secondaryLayers(plan)!;
  // 0.1196 mm over enamel: 167 side by side, 8 layers of 750 V at most, 1.307 mm high; 61.5 m of 0.1 mm have 135 ohm.
  expect(layers).toMatchObject({ turnsPerPot: 1200, turnsPerLayer: 167, layers: 8 });
  expect(layers.voltsPerLayer).toBeCloseTo(835, 6);
  expect(layers.betweenLayersVolts).toBeCloseTo(1670, 6);
  expect(layers.heightMetres * 1e3).toBeCloseTo(8 * 0.1196 + 7 * 0.05, 3);
  expect(layers.wireMetres).toBeCloseTo(Math.PI * (15e-3 + layers.heightMetres) * 1200, 9);
  // Wire tables, from memory: 0.1 mm copper has 2.195 ohm a metre.
  expect(layers.ohms / layers.wireMetres).toBeCloseTo(2.195, 2);
});

/** Energy between layers turn by turn, each turn facing the one above it: an enumeration beside the closed formula. */
function faradsByTurns({ turning }: Pick<SecondaryPlan, 'turning'>, layers: number, width: number, pairFarads: number) {
  let energy = 0;
  const volts = (layer: number, place: number) => {
    const forward = turning === 'same-way' || layer % 2 === 0;
    return layer * width + (forward ? place + 0.5 : width - place - 0.5);
  };
  for (let layer = 0; layer + 1 < layers; layer += 1)
    for (let place = 0; place < width; place += 1)
      energy += ((pairFarads / width) * (volts(layer + 1, place) - volts(layer, place)) ** 2) / 2;
  return (2 * energy) / (layers * width) ** 2;
}

it.each(['back-and-forth', 'same-way'] as const)(
  'self-capacitance wound %s is the energy of all its turns',
  (turning) => {
    const exact = { ...plan, turning, turns: 167 * 8 };
    const { layers, farads, heightMetres } = secondaryLayers(exact)!;
    const over = enamelledMetres(plan.wireMetres);
    const distance = 50e-6 + 1.26 * over - 1.15 * plan.wireMetres;
    const area = Math.PI * (15e-3 + heightMetres) * 167 * over;
    const pair = (3 * 8.8542e-12 * area) / distance;
    expect(Math.abs(farads / faradsByTurns({ turning }, layers, 167, pair) - 1)).toBeLessThan(0.001);
  },
);

it('pots divide voltage and capacitance', () => {
  const one = secondaryLayers({ ...plan, widthMetres: 20e-3 })!;
  const four = secondaryLayers({ ...plan, pots: 4, widthMetres: 5e-3 })!;
  expect(four.voltsPerPot).toBe(1500);
  expect(four.layers).toBe(8);
  // A quarter of the width and a quarter again for the series.
  expect(one.farads / four.farads).toBeCloseTo(16, 0);
  expect(four.betweenLayersVolts).toBeLessThan(one.betweenLayersVolts / 3.5);
});

it('findings: a window too low, insulation too thin, air that can glow; none for a mild one', () => {
  const codes = (changes: Partial<SecondaryPlan>) =>
    secondaryLayers({ ...plan, ...changes })!.findings.map((finding) => finding.code);
  expect(codes({ heightMetres: 1e-3 })).toEqual(['secondary-too-high', 'layer-insulation-thin', 'air-between-layers']);
  expect(codes({ insulationMetres: 0.2e-3 })).toEqual(['air-between-layers']);
  expect(codes({ peakVolts: 600 })).toEqual([]);
  expect(secondaryLayers({ ...plan, wireMetres: 25e-3 })).toBeNull();
});

it('window fill counts every strand as a square over its enamel', () => {
  const fill = windowFill(
    [
      { turns: 10, wireMetres: 0.5e-3, strands: 4 },
      { turns: 1000, wireMetres: 0.1e-3, strands: 1 },
    ],
    100e-6,
  );
  expect(fill).toBeCloseTo((40 * 0.5438 ** 2 + 1000 * 0.1196 ** 2) / 100, 3);
});
