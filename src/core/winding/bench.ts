import type { Design } from '../design/design-schema';
import type { Finding } from '../quantity/finding';
import type { Winding } from '../design/winding-schema';
import type { DriverKindId } from '../drive/driver-kinds';
import type { DriveFigures } from '../drive/figures';
import type { Prediction } from '../predict/prediction';
import { preferredValues } from '../quantity/preferred-values';
import { formatQuantity } from '../quantity/format-quantity';
import {
  couplingOf,
  gapFor,
  henriesOfResonance,
  inductanceFactor,
  leastTurns,
  ratioOfInductances,
  resonanceHertz,
} from '../magnetics/inductance';
import { EASY_FILL, MOST_FILL, secondaryLayers, windowFill, type SecondaryLayers } from './secondary-plan';
import { leakageHenries, ratioOf, type Transformer } from '../magnetics/transformer';
import { sectionOf, skinFactor } from '../magnetics/wire';

/** What the bench needs to know of the design around the transformer. */
export type BenchDesign = {
  transformer: Transformer;
  figures: DriveFigures;
  driver: DriverKindId;
  hertz: number;
  /** The greater peak at the ladder's input, V. */
  secondaryPeakVolts: number;
  ladderFarads: number;
};

/** The wound transformer of a design and what is around it; null where its driver has none of its own. */
export function benchOf({ transformer, driver }: Design, { drive, source }: Prediction): BenchDesign | null {
  return (
    transformer && {
      transformer,
      figures: source.figures,
      driver: driver.kind,
      hertz: drive.frequencyHertz,
      secondaryPeakVolts: Math.max(drive.positivePeakVolts, drive.negativePeakVolts),
      ladderFarads: source.ladderFarads,
    }
  );
}

/** Readings of inductance that are on the sheet, and what follows; null where a reading is missing. */
export function calculateInductances({ inductance }: Winding): {
  ratio: number | null;
  coupling: number | null;
  shortedTooHigh: boolean;
  resonantHenries: number | null;
} {
  const { primaryHenries, secondaryHenries, shortedHenries, resonanceFarads, resonanceHertz: rings } = inductance;
  const coupling =
    secondaryHenries !== null && shortedHenries !== null ? couplingOf(secondaryHenries, shortedHenries) : null;
  return {
    ratio:
      primaryHenries !== null && secondaryHenries !== null
        ? ratioOfInductances(primaryHenries, secondaryHenries)
        : null,
    coupling,
    shortedTooHigh: secondaryHenries !== null && shortedHenries !== null && coupling === null,
    resonantHenries: resonanceFarads !== null && rings !== null ? henriesOfResonance(rings, resonanceFarads) : null,
  };
}

/**
 * Frequencies that the primary would swing at with the capacitors one can buy
 * (E6), from 100 nF to 4.7 µF.
 *
 * @param bank so many of each in series, and such strings in parallel
 */
export function tankTable(
  henries: number,
  reflectedFarads: number,
  { tankSeries, tankParallel } = { tankSeries: 1, tankParallel: 1 },
): { farads: number; hertz: number }[] {
  return preferredValues(6, 100e-9, 4.7e-6).map((farads) => ({
    farads,
    hertz: resonanceHertz(henries, (farads * tankParallel) / tankSeries + reflectedFarads),
  }));
}

export type CoreFigures = {
  /** Fewest turns of the whole primary under the working flux density; null where core or drive do not tell. */
  leastTurns: number | null;
  /** AL, H a turn squared, and the inductance it gives the primary; null without area and path. */
  inductanceFactor: number | null;
  primaryHenries: number | null;
  /** Gap that gives the inductance entered for the primary; null where no gap does. */
  wantedGapMetres: number | null;
  /** Resistance at the drive's frequency over that for direct current, by each wire alone. */
  primarySkinFactor: number | null;
  secondarySkinFactor: number | null;
  /** Section of the primary's strands together, m²; null where its wire is not known. */
  primarySquareMetres: number | null;
  /** RMS, where wire and current are known. */
  primaryAmpsPerSquareMetre: number | null;
  fill: number | null;
  fillWord: 'fits' | 'close' | 'over' | null;
  findings: Finding[];
};

/** How far entered and calculated inductance may lie apart before it is said: AL spreads by a quarter (common practice). */
const INDUCTANCE_SPREAD = 1.4;

/** What core and wire make of the design's primary. */
export function calculateCore({ core, primary, secondary }: Winding, design: BenchDesign): CoreFigures {
  const { transformer, hertz } = design;
  const findings: Finding[] = [];
  const say = (severity: Finding['severity'], code: string, message: string, advice: string) =>
    findings.push({ severity, code, where: '$.winding.core', message, advice });
  const { coreSquareMetres, corePathMetres, primaryTurns, primaryHenries } = transformer;
  const linkage = design.figures.fluxLinkageVoltSeconds ?? NaN;
  const least =
    coreSquareMetres === null || Number.isNaN(linkage)
      ? null
      : leastTurns(linkage, coreSquareMetres, core.workingTesla);
  const of =
    coreSquareMetres === null || corePathMetres === null
      ? null
      : { ...core, squareMetres: coreSquareMetres, pathMetres: corePathMetres };
  const factor = of && inductanceFactor(of);
  const calculated = factor && factor * primaryTurns ** 2;
  if (least !== null && primaryTurns < least)
    say(
      'warn',
      'too-few-turns',
      `The primary has ${primaryTurns} turns; ${core.workingTesla * 1e3} mT asks for ${least}.`,
      'Wind more turns, or accept a higher flux density if the core’s data allow it.',
    );
  if (calculated && primaryHenries !== null) {
    const apart = primaryHenries / calculated;
    if (apart > INDUCTANCE_SPREAD || apart < 1 / INDUCTANCE_SPREAD)
      say(
        'note',
        'inductances-apart',
        `The core gives the primary ${formatQuantity(calculated, 'H', 3)}; the design counts with ${formatQuantity(primaryHenries, 'H', 3)}.`,
        'Trust a measurement over both; the material’s permeability is seldom known better than by a quarter.',
      );
  }
  const { wireMetres, strands } = primary;
  const fill =
    core.windowSquareMetres === null || wireMetres === null || secondary.wireMetres === null
      ? null
      : windowFill(
          [
            { turns: primaryTurns, wireMetres, strands },
            { turns: transformer.secondaryTurns, wireMetres: secondary.wireMetres, strands: 1 },
          ],
          core.windowSquareMetres,
        );
  const fillWord = fill === null ? null : fill <= EASY_FILL ? 'fits' : fill <= MOST_FILL ? 'close' : 'over';
  if (fillWord === 'over')
    say(
      'stop',
      'window-full',
      `Copper would take ${formatQuantity(fill!, '%', 2)} of the window; beside high-voltage insulation hardly more than ${formatQuantity(MOST_FILL, '%', 2)} goes in.`,
      'Use thinner wire, fewer turns or a larger core.',
    );
  const primarySquareMetres = wireMetres === null ? null : strands * sectionOf(wireMetres);
  const primaryAmps = design.figures.tankRmsAmps ?? design.figures.primaryRmsAmps ?? null;
  return {
    leastTurns: least,
    inductanceFactor: factor,
    primaryHenries: calculated,
    wantedGapMetres: of && primaryHenries !== null ? gapFor(primaryHenries / primaryTurns ** 2, of) : null,
    primarySkinFactor: wireMetres === null ? null : skinFactor(wireMetres, hertz),
    secondarySkinFactor: secondary.wireMetres === null ? null : skinFactor(secondary.wireMetres, hertz),
    primarySquareMetres,
    primaryAmpsPerSquareMetre:
      primaryAmps === null || primarySquareMetres === null ? null : primaryAmps / primarySquareMetres,
    fill,
    fillWord,
    findings,
  };
}

export type SecondaryFigures = {
  /** Null where the wire is not known, or one turn is wider than a pot. */
  layers: SecondaryLayers | null;
  /** Frequencies at which the secondary rings; null where the primary's inductance is not known. */
  rings: {
    /** With its own capacitance, its ends open. */
    openHertz: number;
    /** With the ladder's capacitance at its input as well. */
    withLadderHertz: number;
    /** The leakage inductance with both, as a stiff primary sees it; null without leakage. */
    leakageHertz: number | null;
  } | null;
  findings: Finding[];
};

/** A ringing nearer than this many times the drive's frequency shapes its waveform (common practice, no source). */
const RINGING_FAR = 3;

/** The secondary in layers, its capacitance, and where it rings before this ladder. */
export function calculateSecondary({ secondary }: Winding, design: BenchDesign): SecondaryFigures {
  const { transformer, hertz, ladderFarads } = design;
  const { wireMetres } = secondary;
  if (wireMetres === null) return { layers: null, rings: null, findings: [] };
  const layers = secondaryLayers({
    ...secondary,
    wireMetres,
    turns: transformer.secondaryTurns,
    peakVolts: design.secondaryPeakVolts,
  });
  if (!layers) return { layers, rings: null, findings: [] };
  const findings = [...layers.findings];
  const own = layers.farads > 0 ? layers.farads : transformer.secondaryFarads;
  const { primaryHenries } = transformer;
  const henries = primaryHenries === null ? null : primaryHenries * ratioOf(transformer) ** 2;
  const leakage = leakageHenries(transformer);
  const rings =
    henries === null || own === 0
      ? null
      : {
          openHertz: resonanceHertz(henries, own),
          withLadderHertz: resonanceHertz(henries, own + ladderFarads),
          leakageHertz: leakage > 0 ? resonanceHertz(leakage, own + ladderFarads) : null,
        };
  if (rings?.leakageHertz && rings.leakageHertz < RINGING_FAR * hertz)
    findings.push({
      code: 'leakage-rings-near',
      severity: 'warn',
      where: '$.winding.secondary',
      message: `Leakage inductance rings with winding and ladder at ${formatQuantity(rings.leakageHertz, 'Hz', 3)}, under ${RINGING_FAR} times the drive’s ${formatQuantity(hertz, 'Hz', 3)}: peaks at the foot differ from the turns ratio.`,
      advice: 'Couple the windings tighter, use fewer turns or smaller ladder capacitors; see the time domain.',
    });
  return { layers, rings, findings };
}
