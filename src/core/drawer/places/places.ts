import { withField } from '../../design/change-design';
import type { Design } from '../../design/design-schema';
import { mainValue } from '../../parts/part-fields';
import type { Part } from '../../parts/part-schema';
import { readingOf, type Place, type PlaceNeeds } from '../../parts/place';
import type { Prediction } from '../../predict/prediction';
import { atHighest } from '../../quantity/margin';
import { partsUsed, stockOf } from '../parts-used';
import type { PartUse } from '../drawer-messages';

/** A part in a place: how many, in words, and the design it makes. */
export type Placed = { count: number; words: string; design: Design };

/** Voltages and currents without load hardly hang on the part, so that a string for these is one for its own. */
export type Stresses = Pick<Prediction, 'capacitors' | 'diodes' | 'output' | 'source'>;

/** What places need to know of a design's stresses. */
export function needsOf({ spread }: Design, { capacitors, diodes, output, source: { figures } }: Stresses): PlaceNeeds {
  const high = atHighest(spread);
  return {
    capacitorVolts: high * Math.max(...capacitors.map(({ workingVolts }) => workingVolts)),
    diodeVolts: high * Math.max(...diodes.map(({ reverseVolts }) => reverseVolts)),
    noLoadVolts: output.noLoadVolts,
    transistorVolts: figures.transistorPeakVolts ?? null,
    tankVolts: figures.tankPeakVolts ?? null,
    tankAmps: figures.tankRmsAmps ?? null,
    primaryAmps: figures.tankRmsAmps ?? figures.primaryRmsAmps ?? null,
  };
}

/**
 * A part put into a place of a design, as many as carry the stress. What the
 * drawer does not know of a part stays as the design has it.
 *
 * @returns null where the place cannot take it
 */
export function placed(design: Design, place: Place, part: Part, stresses: Stresses): Placed | null {
  const fitted = part.kind === place.takes ? place.fit(readingOf(design), part, needsOf(design, stresses)) : null;
  if (!fitted) return null;
  const made = Object.entries({ ...fitted.values, [place.partId]: part.id }).reduce<unknown>(
    (document, [path, value]) => withField(document, path.split('.'), value),
    design,
  ) as Design;
  return { count: place.count(readingOf(made)), words: fitted.words, design: made };
}

export type PlaceChoice = Placed & { part: Part; wanted: number; free: number };

/** Every part that a place can take: what is there in number first, then what takes the fewest. */
export function choicesFor(
  design: Design,
  place: Place,
  stresses: Stresses,
  parts: readonly Part[],
  others: readonly PartUse[],
): PlaceChoice[] {
  return parts
    .flatMap((part) => {
      const made = placed(design, place, part, stresses);
      if (!made) return [];
      const wanted = partsUsed(made.design).get(part.id) ?? made.count;
      return [{ ...made, part, wanted, free: Math.max(0, stockOf(part, others).free) }];
    })
    .sort(
      (a, b) =>
        Number(a.wanted > a.free) - Number(b.wanted > b.free) ||
        a.wanted - b.wanted ||
        (mainValue(a.part) ?? 0) - (mainValue(b.part) ?? 0),
    );
}
