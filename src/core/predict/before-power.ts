import type { Design } from '../design/design-schema';
import type { Drive } from '../drive/drive';
import type { PowerCheck } from '../drive/driver-kind';
import { DRIVER_KINDS } from '../drive/driver-kinds';
import { HAZARDOUS_DC_VOLTS } from '../output/discharge';
import { formatQuantity } from '../quantity/format-quantity';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import type { Prediction } from './prediction';

/** What is left of headroom when a current limit is set for the first run (common practice, no source). */
const FIRST_RUN_LIMIT = 1.5;
/** The same where what rings on from cycle to cycle may take half as much again as the closed form has. */
const ROUGH_RUN_LIMIT = 2;
const X_RAY_VOLTS = 5000;
/** What hand meters commonly stand, V, and the share of it that is used. */
const HAND_METER_VOLTS = 600;
const METER_SHARE = 0.8;

/** How many times what it should draw a supply is let give at the first run. */
export const firstRunLimit = ({ rough }: Pick<Drive, 'rough'>): number => (rough ? ROUGH_RUN_LIMIT : FIRST_RUN_LIMIT);

/** Whether a direct voltage is more than a hand meter is put on, V. */
export const beyondHandMeter = (volts: number): boolean => volts > METER_SHARE * HAND_METER_VOLTS;

/** How to measure at the terminal, by what stands there without load. */
function meterFor(volts: number): string {
  const noLoad = formatQuantity(volts, 'V');
  if (beyondHandMeter(volts))
    return `A divider rated for more than ${noLoad} on the terminal before power: no hand meter is connected to it directly.`;
  if (volts > HAZARDOUS_DC_VOLTS)
    return `A meter and leads rated for well over ${noLoad}, clipped on before power: hands off while it runs. The meter loads the ladder.`;
  return `A hand meter whose direct range goes over ${noLoad}, clipped on before power. It loads the ladder.`;
}

/** How it is made dead, by what stands there without load and what bleeds it, s to 60 V; null without a bleeder. */
function dischargeFor(volts: number, bleedSeconds: number | null): string {
  const after = 'discharge the terminal and every capacitor through it after use, then measure each';
  if (volts <= HAZARDOUS_DC_VOLTS)
    return `${bleedSeconds === null ? 'There is no bleeder: it holds its voltage. Have' : 'Have'} a resistor with clips ready: ${after}.`;
  if (bleedSeconds === null) return `There is no bleeder: have a resistor on an insulated stick ready, ${after}.`;
  return `The bleeder needs about ${formatQuantity(bleedSeconds, 's', 2)} to 60 V; have a resistor on an insulated stick ready all the same, ${after}.`;
}

/**
 * What to check before power, in the order of energy: from this design's own
 * supply, driver and transformer, then what every ladder asks. Common practice,
 * no source; local codes and licensed practice come first.
 */
export function beforePower(design: Design, prediction: Omit<Prediction, 'findings' | 'beforePower'>): PowerCheck[] {
  const { supply, driver, transformer, output } = design;
  const checks: PowerCheck[] = [];
  const say = (code: string, text: string) => checks.push({ code, text });
  const { figures } = prediction.source;
  const { rough } = prediction.drive;
  const { supplyAmps: amps, startAmps = 0 } = figures;
  if (supply?.kind === 'mains' || supply?.kind === 'smoothed-mains')
    say(
      'mains',
      'Mains side: fuse in the live line, earth on every metal part, a switch that cuts both lines within reach, nobody alone.',
    );
  if (supply && supply.kind !== 'mains' && amps !== undefined && amps > 0)
    say(
      'current-limit',
      `Set the supply’s current limit, or a slow fuse, near ${formatQuantity(firstRunLimit(prediction.drive) * Math.max(amps, startAmps), 'A', 2)}: at the design’s load it should draw ${rough ? 'up to about ' : ''}${formatQuantity(amps, 'A', 2)}${startAmps > amps ? `, and some ${formatQuantity(startAmps, 'A', 2)} while it starts, which a lower limit would not let it do` : ''}.`,
    );
  checks.push(...DRIVER_KINDS[driver.kind].beforePower(driver, figures));
  if (TOPOLOGY_KINDS[design.ladder.topology].floats)
    say(
      'floating-winding',
      'Neither end of the winding joins ground, core or shield: measure with power off that both are open to them. One end of the ladder may be earthed, by a wire of its own.',
    );
  else if (transformer || driver.kind === 'mains')
    say('polarity', 'Core and the low end of the secondary on the ladder’s ground, by one short wire.');
  const { drive } = prediction;
  // What alternates, or a ladder that is starved, has no direct output to speak of, and its winding all the same.
  const noLoadVolts = Math.max(prediction.output.noLoadVolts, drive.positivePeakVolts, drive.negativePeakVolts);
  say('meter', meterFor(noLoadVolts));
  say('discharge', dischargeFor(noLoadVolts, output.bleederOhms === null ? null : prediction.energy.bleedSeconds));
  if (noLoadVolts > X_RAY_VOLTS)
    say('x-rays', 'No vacuum tube near the terminal without shielding: over about 5 kV it can emit X-rays.');
  return checks;
}
