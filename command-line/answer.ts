import type { Design } from '../src/core/design/design-schema';
import { readDesignText } from '../src/core/design/read-design';
import { predict } from '../src/core/predict/predict';
import { toleranceOf } from '../src/core/predict/tolerance';
import { readQuantity } from '../src/core/quantity/read-quantity';
import { chargeUpOf } from '../src/core/transient/charge-up';
import { dischargeOf } from '../src/core/transient/discharge';
import { idleOf, isIdle } from '../src/core/transient/idle';
import { transientOf, type Transient } from '../src/core/transient/transient';
import { finish } from '../src/core/numeric/finish';

/** What a command line comes to: what to print where, and how to exit. */
export type Answer = { status: number; out: string; complaints: string[] };

const USE =
  'use: npm run -s predict -- [--transient] [--charge-up] [--discharge OHMS] [--tolerance] [--all] FILE.ladder.json, or - for standard input';

/** How long a discharge is followed, s, and what comes back of a capacitor's voltage: as the application starts with. */
const DISCHARGE_SECONDS = 10;
const ABSORPTION = 0.01;
const SEED = 1;

/** The parts beside the prediction, in the order in which they are printed. */
const PARTS = ['transient', 'charge-up', 'discharge', 'tolerance'] as const;
type Part = (typeof PARTS)[number];
type Asked = { parts: ReadonlySet<Part>; dischargeOhms: number | null; file: string };

/**
 * What `npm run -s predict` answers: the prediction of a design as JSON, with
 * the parts asked for by their names beside it: the settled time domain and
 * what the driver draws idle, the charge-up from dead, a discharge from there, and the spread. Bad input: status
 * 2, nothing to print, one complaint a fault.
 *
 * @param read the text of a file, or of standard input for `-`; may throw
 */
export function answer(words: readonly string[], read: (file: string) => string): Answer {
  const refused = (...complaints: string[]): Answer => ({ status: 2, out: '', complaints });
  const asked = askedBy(words);
  if (typeof asked === 'string') return refused(`${asked}: not understood; ${USE}`);
  let text: string;
  try {
    text = read(asked.file);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    return refused(`${asked.file}: cannot be read (${code}); name a design file, or - for standard input`);
  }
  const reading = readDesignText(text);
  if (!reading.ok) return refused(...reading.faults.map(({ path, message }) => `${path}: ${message}`));
  return { status: 0, out: `${JSON.stringify(partsOf(reading.design, asked), null, 2)}\n`, complaints: [] };
}

/** What the words ask for, or the first of them that is not understood. */
function askedBy(words: readonly string[]): Asked | string {
  const parts = new Set<Part>();
  const files: string[] = [];
  let dischargeOhms: number | null = null;
  for (let at = 0; at < words.length; at += 1) {
    const word = words[at];
    const part = PARTS.find((name) => word === `--${name}`);
    if (word === '--all') PARTS.forEach((name) => parts.add(name));
    else if (part) parts.add(part);
    else if (word.startsWith('-') && word !== '-') return word;
    else files.push(word);
    if (part !== 'discharge') continue;
    at += 1;
    const ohms = readQuantity(words[at] ?? '', 'Ω');
    if (!ohms.ok || !(ohms.value > 0)) return `--discharge ${words[at] ?? ''}`.trim();
    dischargeOhms = ohms.value;
  }
  return files.length === 1 ? { parts, dischargeOhms, file: files[0] } : 'arguments';
}

function partsOf(design: Design, { parts, dischargeOhms }: Asked): object {
  const prediction = predict(design);
  const settled = parts.has('transient') || parts.has('discharge') ? finish(transientOf(design)).transient : null;
  // Through its own bleeder where no other resistor is named; without either there is nothing to discharge it.
  const ohms = dischargeOhms ?? design.output.bleederOhms;
  // What nothing rectifies neither fills nor empties.
  const stores = prediction.output.alternating === null;
  return {
    ...prediction,
    ...(parts.has('transient') ? { transient: settled, idle: isIdle(design) ? null : finish(idleOf(design)) } : {}),
    ...(parts.has('charge-up')
      ? { chargeUp: stores ? finish(chargeUpOf(design, prediction.output.noLoadVolts, false)) : null }
      : {}),
    ...(parts.has('discharge')
      ? { discharge: ohms === null || !stores ? null : dischargedFrom(design, settled!, ohms) }
      : {}),
    ...(parts.has('tolerance') ? { tolerance: spreadOf(design) } : {}),
  };
}

function dischargedFrom(design: Design, { nodes }: Transient, ohms: number): object {
  const volts = new Map(nodes.map(({ id, meanVolts }) => [id, meanVolts]));
  const options = { ohms, seconds: DISCHARGE_SECONDS, absorption: ABSORPTION };
  return { ...options, ...dischargeOf(design, volts, options) };
}

/** The spread without the list of its draws. */
function spreadOf(design: Design): object | null {
  const tolerance = finish(toleranceOf(design, SEED));
  if (!tolerance) return null;
  const { outputs, ...rest } = tolerance;
  return { ...rest, leastVolts: outputs[0], mostVolts: outputs[outputs.length - 1] };
}
