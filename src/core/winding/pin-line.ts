import { readQuantity } from '../quantity/read-quantity';
import type { PinReading } from './pin-finder';

const OPEN = /^(open|o\.?l\.?|inf(inite)?|∞|-+)$/i;

/**
 * Readings as one writes them down, "1-2 0.6" or "HV to 8 open", one to a line
 * or parted by commas or semicolons.
 *
 * @returns the readings, or what is wrong with the first that does not read;
 *   with a decimal comma, part readings by semicolons or lines
 */
export function readPinLines(text: string): { ok: true; readings: PinReading[] } | { ok: false; reason: string } {
  const readings: PinReading[] = [];
  for (const line of text.split(/[\n;]|,(?!\d)/)) {
    if (line.trim() === '') continue;
    const match = /^\s*(\S+?)(?:\s+to\s+|\s*[-–]\s*|\s+)([^\s:=]+)\s*[:=]?\s+(.+?)\s*$/i.exec(line);
    if (!match)
      return {
        ok: false,
        reason: `"${line.trim()}" is not a reading. Write two pins and ohms, such as 1-2 0.6 or HV-8 open.`,
      };
    const [, from, to, value] = match;
    if (from.toUpperCase() === to.toUpperCase())
      return { ok: false, reason: `"${line.trim()}" names one pin twice. Write two pins and ohms, such as 1-2 0.6.` };
    if (from.length > 12 || to.length > 12)
      return { ok: false, reason: `"${line.trim()}" has a pin’s name of more than 12 characters. Shorten it.` };
    if (OPEN.test(value)) {
      readings.push({ from, to, ohms: null });
      continue;
    }
    const ohms = readQuantity(value, 'Ω');
    if (!ohms.ok) return { ok: false, reason: `In "${line.trim()}": ${ohms.reason}` };
    if (ohms.value < 0)
      return { ok: false, reason: `"${line.trim()}" is below zero. A resistance is zero or more, or "open".` };
    readings.push({ from, to, ohms: ohms.value });
  }
  return { ok: true, readings };
}
