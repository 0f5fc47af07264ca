import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { amplitudeVolts, heldAtPeak, mirroredDrive, type Drive } from '../drive/drive';
import { unloadedContext, type DriveResult } from '../drive/drive-result';
import { makeDrive } from '../drive/driver-kinds';
import { biasedNetwork } from '../ladder/bias';
import { capacitiveNetwork, capacitiveResponse, inputFarads } from '../ladder/capacitive';
import { loadedOn, type LoadedLadder } from '../ladder/loaded';
import { idealVolts, noLoadLadder } from '../ladder/unloaded';
import { acrossAmpsOf, currentsAt, outputElements } from '../output/elements';
import { forwardDrop } from '../parts/forward-drop';
import { swungJunction } from '../parts/junction';
import { isAlternating, type LadderNetwork } from '../topology/network';
import type { Demand } from './demand';
import { isMirrored, isStarved, ladderInputs, type LadderInputs } from './ladder-inputs';

/**
 * The drive as the positive ladder that stands for this design sees it: a
 * negative ladder is the mirror of a positive one, so its drive is mirrored.
 * A ladder that climbs both ways is its own mirror. What a rectifier inside the
 * transformer hands on is taken to be of the ladder's polarity.
 */
export function onLadder(design: Design, network: Pick<LadderNetwork, 'return' | 'topology'>, drive: Drive): Drive {
  const turned = isMirrored(design, network) ? mirroredDrive(drive) : drive;
  return isStarved(design.transformer, network.topology) ? heldAtPeak(turned) : turned;
}

/** The drive a design gives its ladder, in its own polarity and without load. */
export function driveOf(design: Design): Drive {
  return sourceOf(design, ladderOfDesign(design), null, 1).drive;
}

/**
 * The whole way from the supply to the ladder's input, with the design's ladder
 * taking this much and leaving this fraction of the peaks.
 */
export function sourceOf(design: Design, ladder: LoadedLadder, demand: Demand | null, driveScale: number): DriveResult {
  return makeDrive(design, {
    ...unloadedContext(inputFaradsOf(ladder), ladder.network.sources.length),
    ladderWatts: demand?.watts ?? null,
    ladderRmsAmps: demand?.amps ?? null,
    driveScale,
  });
}

/** What the ladder's input shows beside the charge it takes, over all windings, F. */
export const inputFaradsOf = (ladder: LoadedLadder) => total(ladder.inputFarads);

const total = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0);

/**
 * The loaded ladder a design describes, optionally with another stage count:
 * its capacitances are those left at their voltages without load.
 */
export function ladderOfDesign(design: Design, stages = design.ladder.stages): LoadedLadder {
  return ladderOn(
    stages === design.ladder.stages ? design : changeDesign(design, { path: '$.ladder.stages', value: stages }),
  ).ladder;
}

/** The same with the inputs it was made from. */
export function ladderOn(design: Design): { inputs: LadderInputs; ladder: LoadedLadder } {
  const inputs = ladderInputs(design);
  const marked = onItsDrive(design, inputs, inputs.marked);
  const { dcBiasDerating, ratedVolts, series } = design.ladder.capacitor;
  const charged =
    dcBiasDerating === null || ratedVolts === null
      ? marked
      : onItsDrive(
          design,
          inputs,
          biasedNetwork(inputs.marked, noLoadVolts(marked), { series, ratedVolts, dcBiasDerating }),
        );
  const { network, drive, diode, capacitive, response } = charged;
  const { forwardVolts, strayFarads } = diode;
  const junctionFarads = strayFarads - design.ladder.strayFarads;
  return {
    inputs: {
      ...inputs,
      strayFarads,
      parts: { ...inputs.parts, diode: { ...inputs.parts.diode, forwardVolts, junctionFarads } },
    },
    ladder: loadedOn(network, drive, diode, capacitive, response),
  };
}

/** A network with what its capacitances make of the design's drive, junctions as the drive leaves them. */
function onItsDrive(design: Design, inputs: LadderInputs, network: LadderNetwork) {
  const first = withStrays(design, inputs, network, inputs.strayFarads);
  const { series, junctionFarads, junctionVolts, forwardVolts } = design.ladder.diode;
  if (junctionVolts === null || isAlternating(network)) return first;
  const drop = first.diode.forwardVolts / series;
  const junctionAt = (volts: number) =>
    swungJunction({ junctionFarads, measuredVolts: junctionVolts, forwardVolts }, volts / series, drop) / series;
  const swung = (farads: number) => withStrays(design, inputs, network, design.ladder.strayFarads + farads);
  const whole = swung(junctionAt(2 * amplitudeVolts(first.drive)));
  return swung(meanJunction(whole, junctionAt));
}

/**
 * What strays take of the swing leaves each junction more of its capacitance: the
 * mean of what the diodes then have, each counted by what its charge takes of the
 * output.
 */
function meanJunction(
  { network, drive, response }: ReturnType<typeof withStrays>,
  junctionAt: (volts: number) => number,
): number {
  const { swings, discharge } = response;
  const diodes = network.diodes.map(({ anode, cathode }) => {
    const part = Math.abs(swings.get(anode)! - swings.get(cathode)!);
    const share = part * Math.abs(discharge.get(anode)! - discharge.get(cathode)!);
    return { share, taken: share * junctionAt(2 * amplitudeVolts(drive) * part) };
  });
  const shares = total(diodes.map(({ share }) => share));
  return shares > 0 ? total(diodes.map(({ taken }) => taken)) / shares : junctionAt(0);
}

/** The same with this much capacitance across each diode, F. */
function withStrays(design: Design, { parts }: LadderInputs, network: LadderNetwork, strayFarads: number) {
  const capacitive = capacitiveNetwork(network, strayFarads);
  const response = capacitiveResponse(network, capacitive, strayFarads);
  const ladderFarads = total(inputFarads(network, strayFarads, response.swings));
  const { drive } = makeDrive(design, { ...unloadedContext(ladderFarads, network.sources.length), driveOnly: true });
  const mirrored = onLadder(design, network, drive);
  return {
    network,
    drive: mirrored,
    diode: {
      forwardVolts: dropOf(design, parts, idealVolts(network, mirrored, 0)),
      strayFarads,
      onOhms: parts.diode.onOhms,
    },
    capacitive,
    response,
  };
}

/** Drop of the diodes in one place, V, at what the load takes of the ideal output: each passes that mean in every cycle. */
function dropOf({ ladder, output, load }: Design, parts: LadderInputs['parts'], volts: number): number {
  const { forwardVolts, forwardAmps, series } = ladder.diode;
  if (forwardAmps === null) return parts.diode.forwardVolts;
  const currents = currentsAt(outputElements(output, load), volts);
  return series * forwardDrop(forwardVolts, forwardAmps, currents.loadAmps + acrossAmpsOf(currents));
}

/** Across each capacitor without load, V. */
function noLoadVolts({ network, drive, diode, capacitive, response }: ReturnType<typeof onItsDrive>): number[] {
  return noLoadLadder(network, drive, diode.forwardVolts, capacitive, response).capacitorVolts;
}
