import type { Design } from '../design/design-schema';
import { windingSchema } from '../design/winding-schema';
import type { Prediction } from '../predict/prediction';
import { sayQuantity } from '../quantity/format-quantity';
import { CHOSEN_MARGIN } from '../quantity/margin';
import { sayBank, seriesFor } from '../stress/strings';
import { AMPS_PER_SQUARE_METRE, primaryAmpsOf, sectionOf } from '../magnetics/wire';
import type { Part } from '../parts/part-schema';
import { transistorsOf } from './parts-used';

/** A part in a place: how many, in words, and the design it makes. */
export type Placed = { count: number; words: string; design: Design };

/** Voltages and currents without load hardly hang on the part, so that a string for these is one for its own. */
export type Stresses = Pick<Prediction, 'capacitors' | 'diodes' | 'output' | 'source' | 'input'>;

const valueOf = ({ source }: Stresses, ...keys: string[]) =>
  source.figures.find(({ key }) => keys.includes(key))?.value ?? null;

/** Transistors of one type in all places of a driver; null where it has none or the type does not block what they must. */
export function placedTransistor(
  design: Design,
  { ratedVolts, averageAmps, onOhms, gateThresholdVolts, id }: Extract<Part, { kind: 'transistor' }>,
  stresses: Stresses,
): Placed | null {
  const { driver } = design;
  // A blocking oscillator's pulse climbs to whatever its transistor holds it at.
  const climbs = driver.kind === 'blocking-oscillator';
  const blocks = climbs ? null : valueOf(stresses, 'transistor-peak', 'switch-peak');
  if (!('transistorPartId' in driver) || (blocks !== null && ratedVolts < blocks)) return null;
  const count = transistorsOf(driver);
  return {
    count,
    words: `${count === 1 ? 'one' : count}${blocks === null ? '' : `, ${sayQuantity(ratedVolts / blocks - 1, '%', 2)} in hand`}`,
    design: {
      ...design,
      driver: {
        ...driver,
        ratedVolts,
        ratedAmps: averageAmps,
        transistorPartId: id,
        ...('transistorOhms' in driver ? { transistorOhms: onOhms ?? driver.transistorOhms } : {}),
        ...('gateThresholdVolts' in driver
          ? { gateThresholdVolts: gateThresholdVolts ?? driver.gateThresholdVolts }
          : {}),
      },
    },
  };
}

const MOST_SIDE_BY_SIDE = 50;
/** How many times another capacitance than the tank's may be offered: its frequency goes as the root. */
const MOST_AWAY = 1.5;

/**
 * A bank for the tank: as many in series as carry its peak, and as many such
 * strings as come nearest its capacitance and carry its current; null where that
 * comes to quite another capacitance.
 */
export function placedTank(
  design: Design,
  part: Extract<Part, { kind: 'capacitor' }>,
  stresses: Stresses,
): Placed | null {
  const { driver } = design;
  const [peak, amps] = [valueOf(stresses, 'tank-peak'), valueOf(stresses, 'tank-amps')];
  if (driver.kind !== 'resonant-push-pull' || peak === null || amps === null) return null;
  const series = seriesFor('capacitor', part, peak);
  if (series === null) return null;
  const wanted = (driver.tankFarads * driver.tankParallel) / driver.tankSeries;
  const string = part.farads / series;
  const byAmps = part.ratedRmsAmps === null ? 1 : Math.ceil((amps * (1 + CHOSEN_MARGIN)) / part.ratedRmsAmps);
  const parallel = Math.max(1, byAmps, Math.round(wanted / string));
  const total = string * parallel;
  if (parallel > MOST_SIDE_BY_SIDE || series > 20 || Math.max(total / wanted, wanted / total) > MOST_AWAY) return null;
  return {
    count: series * parallel,
    words: `${sayBank(series, parallel) || 'one'}, ${sayQuantity(total, 'F')}`,
    design: {
      ...design,
      driver: {
        ...driver,
        tankFarads: part.farads,
        tankSeries: series,
        tankParallel: parallel,
        tankRatedVolts: part.ratedVolts,
        tankRatedAmps: part.ratedRmsAmps,
        tankPartId: part.id,
      },
    },
  };
}

const MOST_STRANDS = 400;

/** A wire for the primary in as many strands as its current commonly asks for; null where that is not known. */
export function placedPrimary(
  design: Design,
  { wireMetres, id }: Extract<Part, { kind: 'wire' }>,
  { source, input }: Stresses,
): Placed | null {
  const amps = primaryAmpsOf(design.driver.kind, source.figures, input.amps);
  if (!design.transformer || amps === null) return null;
  const strands = Math.max(1, Math.ceil(amps / (AMPS_PER_SQUARE_METRE * sectionOf(wireMetres))));
  if (strands > MOST_STRANDS) return null;
  const winding = design.winding ?? windingSchema.parse({});
  return {
    count: 1,
    words: `${strands === 1 ? 'one strand' : `${strands} strands`} for ${sayQuantity(amps, 'A')}`,
    design: { ...design, winding: { ...winding, primary: { wireMetres, strands, partId: id } } },
  };
}
