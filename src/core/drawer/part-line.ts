import { readQuantity } from '../quantity/read-quantity';
import type { Unit } from '../quantity/units';
import { likelyKind, usualDiode } from '../parts/diode-kinds';
import { PART_NAMES, usualName } from '../parts/part-fields';
import { partSchema, type DIELECTRICS, type Part, type PartKind } from '../parts/part-schema';

type Diode = Extract<Part, { kind: 'diode' }>;

const KIND_WORDS: ReadonlyMap<string, PartKind> = new Map([
  ['cap', 'capacitor'],
  ['capacitor', 'capacitor'],
  ['diode', 'diode'],
  ['rectifier', 'diode'],
  ['res', 'resistor'],
  ['resistor', 'resistor'],
  ['fet', 'transistor'],
  ['mosfet', 'transistor'],
  ['transistor', 'transistor'],
  ['core', 'core'],
  ['wire', 'wire'],
  ['film-insulation', 'insulation'],
  ['insulation', 'insulation'],
  ['transformer', 'transformer'],
  ['module', 'module'],
]);

const DIELECTRIC_WORDS: ReadonlyMap<string, (typeof DIELECTRICS)[number]> = new Map([
  ['cer', 'class-2-ceramic'],
  ['ceramic', 'class-2-ceramic'],
  ['x7r', 'class-2-ceramic'],
  ['y5v', 'class-2-ceramic'],
  ['c0g', 'class-1-ceramic'],
  ['np0', 'class-1-ceramic'],
  ['film', 'film'],
  ['mica', 'mica'],
  ['paper', 'paper'],
  ['elko', 'electrolytic'],
  ['electrolytic', 'electrolytic'],
]);

/** Which field of a kind a quantity of a unit is; the first that reads is taken. */
const PLACES: Record<PartKind, readonly (readonly [Unit, string])[]> = {
  capacitor: [
    ['F', 'farads'],
    ['V', 'ratedVolts'],
    ['A', 'ratedRmsAmps'],
    ['%', 'tolerance'],
  ],
  diode: [
    ['V', 'peakInverseVolts'],
    ['A', 'averageAmps'],
    ['s', 'recoverySeconds'],
    ['F', 'junctionFarads'],
  ],
  resistor: [
    ['Ω', 'ohms'],
    ['W', 'watts'],
    ['V', 'ratedVolts'],
    ['%', 'tolerance'],
  ],
  transistor: [
    ['V', 'ratedVolts'],
    ['A', 'averageAmps'],
    ['Ω', 'onOhms'],
  ],
  core: [['H', 'inductanceFactor']],
  wire: [],
  insulation: [['V', 'breakdownVolts']],
  transformer: [
    ['V', 'secondaryVolts'],
    ['Ω', 'secondaryOhms'],
    ['A', 'shortAmps'],
    ['H', 'primaryHenries'],
  ],
  module: [
    ['V', 'openVolts'],
    ['Hz', 'frequencyHertz'],
    ['A', 'maxAmps'],
    ['W', 'maxWatts'],
  ],
};

/** Lengths and areas, by kind: what a number of millimetres, metres or square millimetres is. */
const LENGTHS: Partial<Record<PartKind, Partial<Record<'mm' | 'm' | 'mm2', readonly [string, number]>>>> = {
  wire: { mm: ['wireMetres', 1e-3], m: ['lengthMetres', 1] },
  core: { mm2: ['squareMetres', 1e-6], mm: ['pathMetres', 1e-3] },
  insulation: { mm: ['thicknessMetres', 1e-3] },
};

const UNIT_TAIL = /^(?:[fpnuµμmkMG]?(?:F|V|A|s|W|H|Hz|Ω|R|ohm|ohms)|%|mm2|mm²|mm|m)$/;

/** Numbers and units written apart are put together: "15 kV" is one word. */
function wordsOf(line: string): string[] {
  const words = line
    .trim()
    .split(/\s+/)
    .filter((word) => word !== '');
  return words.reduce<string[]>((joined, word) => {
    const last = joined.at(-1);
    return last && /^[\d.,]+$/.test(last) && UNIT_TAIL.test(word)
      ? [...joined.slice(0, -1), last + word]
      : [...joined, word];
  }, []);
}

/** Whether a word names its unit, so that its kind can be told from it. */
const namesUnit = (word: string, unit: Unit) => {
  const read = readQuantity(word, unit);
  return read.ok && new RegExp(`${unit === 'Ω' ? '(Ω|R|ohms?)' : unit}$`).test(word);
};

function kindOf(words: readonly string[]): PartKind | null {
  const plain = words.map((word) => word.toLowerCase());
  for (const word of plain) {
    const kind = KIND_WORDS.get(word);
    if (kind) return kind;
  }
  if (plain.some((word) => DIELECTRIC_WORDS.has(word))) return 'capacitor';
  if (words.some((word) => namesUnit(word, 's'))) return 'diode';
  if (words.some((word) => namesUnit(word, 'F') || /^\d+[pnu]\d*$/.test(word))) return 'capacitor';
  if (words.some((word) => namesUnit(word, 'Ω'))) return 'resistor';
  return null;
}

/**
 * A part from one typed line: "100p 15kV cer x30", "diode 20kV 5mA 100ns x16
 * @0.40", "1M 2W 3.5kV res x10". Values are known by their units, the kind by a
 * word or by its values, a count by an x, a price by an @; what is left is the
 * name.
 *
 * @param id the part's id in the drawer
 * @returns the part, or what is wrong and what would be right
 */
export function readPartLine(line: string, id: string): { ok: true; part: Part } | { ok: false; reason: string } {
  const words = wordsOf(line);
  const kind = kindOf(words);
  if (words.length === 0) return { ok: false, reason: 'Nothing entered. Write a part, such as 100p 15kV cer x30.' };
  if (!kind)
    return {
      ok: false,
      reason: `What kind of part is “${line.trim()}”? Add a word such as cap, diode, res, core, wire, transformer or module.`,
    };
  const part: Record<string, unknown> = { id, kind };
  const left: string[] = [];
  for (const word of words) {
    const low = word.toLowerCase();
    const count = /^(?:x(\d+)|(\d+)x)$/i.exec(word);
    const price = /^@(.+)$/.exec(word);
    const ratio = /^1:([\d.,]+)$/.exec(word);
    const length = /^([\d.,]+)(mm2|mm²|mm|m)$/.exec(word);
    if (count) part.count = Number(count[1] ?? count[2]);
    else if (price) {
      const read = readQuantity(price[1]);
      if (!read.ok) return { ok: false, reason: `The price “${word}” does not read. Write it like @0.40.` };
      part.price = read.value;
    } else if (ratio && kind === 'transformer') {
      part.ratio = Number(ratio[1].replace(',', '.'));
    } else if (KIND_WORDS.get(low) === kind) continue;
    else if (kind === 'capacitor' && DIELECTRIC_WORDS.has(low)) part.dielectric = DIELECTRIC_WORDS.get(low);
    else if (length && LENGTHS[kind]) {
      const place = LENGTHS[kind]?.[length[2].replace('²', '2') as 'mm'];
      if (!place) left.push(word);
      else part[place[0]] = Number((Number(length[1].replace(',', '.')) * place[1]).toPrecision(12));
    } else {
      const place = PLACES[kind].find(([unit, field]) => part[field] === undefined && belongs(word, unit, kind));
      if (place) part[place[1]] = (readQuantity(word, place[0]) as { value: number }).value;
      else left.push(word);
    }
  }
  if (kind === 'diode' && typeof part.peakInverseVolts === 'number') {
    // What the line does not say of a diode is what is usual of its kind, as far as it decides the output.
    const { averageAmps = null, recoverySeconds = null, peakInverseVolts } = part as Partial<Diode>;
    const usual = usualDiode(
      likelyKind({ peakInverseVolts: peakInverseVolts!, averageAmps, recoverySeconds }),
      peakInverseVolts,
    );
    Object.assign(part, { forwardVolts: usual.forwardVolts, forwardAmps: usual.forwardAmps });
    if (part.junctionFarads === undefined)
      Object.assign(part, { junctionFarads: usual.junctionFarads, junctionVolts: usual.junctionVolts });
  }
  part.name = left.join(' ').slice(0, 80) || 'unnamed';
  const read = partSchema.safeParse(part, { reportInput: true });
  if (!read.success) {
    const issue = read.error.issues[0];
    const field = String(issue.path[0] ?? '');
    return {
      ok: false,
      reason: `A ${PART_NAMES[kind].toLowerCase()} here: its ${fieldWords(field)} ${issue.message}.`,
    };
  }
  return { ok: true, part: left.length > 0 ? read.data : { ...read.data, name: usualName(read.data) } };
}

/** Whether a word is a quantity of this unit: named, or bare where the kind leaves no doubt. */
function belongs(word: string, unit: Unit, kind: PartKind): boolean {
  if (!/^[\d.,]/.test(word) && !/^R\d/i.test(word)) return false;
  if (namesUnit(word, unit)) return true;
  const bare = kind === 'capacitor' ? unit === 'F' : kind === 'resistor' ? unit === 'Ω' : false;
  return bare && readQuantity(word, unit).ok && /^\d*[.,]?\d*([pnumkMGRr]\d*)?$/.test(word);
}

const fieldWords = (field: string) => field.replace(/([A-Z])/g, ' $1').toLowerCase();
