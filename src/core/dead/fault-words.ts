import { formatQuantity } from '../quantity/format-quantity';
import { LEAST_TOLD } from '../output/discharge';
import { SERIES, WINDING, type PartFault } from '../transient/falling';
import type { Left } from './charged';

const volts = (value: number) => (value < LEAST_TOLD.V ? 'under 1 V' : formatQuantity(value, 'V'));

/** What a part that has failed leaves behind, in words. */
export function faultWords({ part, how }: PartFault, afterStick: Left, afterBleeder: Left | null): string {
  const what =
    part === WINDING
      ? 'The winding come apart'
      : part === SERIES
        ? 'The series string come open'
        : `${part[0].toUpperCase()}${part.slice(1)} ${how === 'open' ? 'come open' : 'failed short'}`;
  const stick = `${afterStick.capacitor} keeps ${volts(afterStick.volts)} while the terminal, held with the stick, reads ${volts(afterStick.terminalVolts)}`;
  if (!afterBleeder) return `${what}: ${stick}.`;
  const bleeder = `the bleeder alone leaves ${volts(afterBleeder.volts)} on ${afterBleeder.capacitor} and ${volts(afterBleeder.terminalVolts)} at the terminal`;
  return `${what}: ${stick}; ${bleeder}.`;
}
