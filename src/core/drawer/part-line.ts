import { awgMetres } from '../magnetics/wire';
import { formatQuantity } from '../quantity/format-quantity';
import { capacitorMarking, resistorMarking } from '../quantity/markings';
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

const UNIT_TAIL = /^(?:[fpnuµμmkMG]?(?:F|V|A|s|W|H|Hz|Ω|R|ohm|ohms|V?[AaDd][Cc])|%|mm2|mm²|mm|m|awg|swg)$/i;
const CURRENT_KIND = /^(?:[ad]c|~)$/i;

/** Numbers and units written apart are put together: "15 kV" is one word, and so are "2 kV DC" and "AWG 30". */
function wordsOf(line: string): string[] {
  const words = line
    .trim()
    .split(/\s+/)
    .filter((word) => word !== '');
  return words.reduce<string[]>((joined, word) => {
    const last = joined.at(-1);
    const belongs =
      last !== undefined &&
      ((/^[\d.,]+$/.test(last) && UNIT_TAIL.test(word)) ||
        (/\d[kKmM]?[vV]$/.test(last) && CURRENT_KIND.test(word)) ||
        (/^awg$/i.test(last) && /^\d+$/.test(word)));
    return belongs ? [...joined.slice(0, -1), last + word] : [...joined, word];
  }, []);
}

/** What people have and the drawer does not keep: named, so that none becomes something else. Some are also words of a name. */
const NOT_KEPT = /^(zener|varistor|mov|tvs|thyristor|scr|triac|igbt|choke|inductor)s?$/i;
const NOT_KEPT_ALONE = /^(coil|fuse|switch|relay|tube|lamp|battery)s?$/i;

/** Diodes by the numbers that many makers give alike, 1 A and 3 A (from memory; a data sheet beats them). */
const ONE_AMPERE_VOLTS = [50, 100, 200, 400, 600, 800, 1000];
const THREE_AMPERE_VOLTS = [50, 100, 200, 300, 400, 500, 600, 800, 1000];

type Numbered = { peakInverseVolts: number; averageAmps: number; recoverySeconds: number };

/** What a common type number says of a diode; null for any other word. */
function numberedDiode(word: string): Numbered | null {
  const type = /^(1n|uf|her)(40|54|10)0([0-8])$/i.exec(word);
  if (!type) return null;
  const [, family, series, digit] = type;
  const fast = family.toLowerCase() !== '1n';
  const volts =
    series === '40' && family.toLowerCase() !== 'her'
      ? ONE_AMPERE_VOLTS[Number(digit) - 1]
      : series === '54' && family.toLowerCase() !== 'her'
        ? THREE_AMPERE_VOLTS[Number(digit)]
        : undefined;
  if (volts === undefined) return null;
  return { peakInverseVolts: volts, averageAmps: series === '40' ? 1 : 3, recoverySeconds: fast ? 75e-9 : 2e-6 };
}

/** Diameter of a wire by its gauge, m; null for any other word. */
function gaugeMetres(word: string): number | null {
  const gauge = /^(?:awg#?(\d+)|#?(\d+)awg)$/i.exec(word);
  const number = gauge ? Number(gauge[1] ?? gauge[2]) : NaN;
  return number <= 50 ? Number(awgMetres(number).toPrecision(3)) : null;
}

const UNIT_ENDS: Partial<Record<Unit, RegExp>> = {
  Ω: /(Ω|R|ohms?)$/,
  V: /v(?:[ad]c|~|=)?$/i,
  F: /f$/i,
  A: /a$/i,
  W: /w$/i,
};

/** Whether a word names its unit, so that its kind can be told from it. */
const namesUnit = (word: string, unit: Unit) => {
  const read = readQuantity(word, unit);
  return read.ok && UNIT_ENDS[unit]?.test(word) !== false && (UNIT_ENDS[unit] !== undefined || word.endsWith(unit));
};

/** The kind that a word names, one or several of it. */
const kindWord = (word: string): PartKind | undefined =>
  KIND_WORDS.get(word.toLowerCase()) ?? KIND_WORDS.get(word.toLowerCase().replace(/s$/, ''));

function kindOf(words: readonly string[]): PartKind | null {
  const plain = words.map((word) => word.toLowerCase());
  for (const word of plain) {
    const kind = kindWord(word);
    if (kind) return kind;
  }
  if (plain.some((word) => DIELECTRIC_WORDS.has(word))) return 'capacitor';
  if (words.some((word) => namesUnit(word, 's') || numberedDiode(word))) return 'diode';
  if (words.some((word) => gaugeMetres(word) !== null)) return 'wire';
  if (words.some((word) => namesUnit(word, 'F') || (/^\d*[pnu]\d*[JKM]?$/.test(word) && /\d/.test(word))))
    return 'capacitor';
  if (words.some((word) => namesUnit(word, 'Ω') || resistorMarking(word))) return 'resistor';
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
  const namesKind = words.some((word) => kindWord(word) !== undefined);
  const notKept = words.find((word) => NOT_KEPT.test(word) || (!namesKind && NOT_KEPT_ALONE.test(word)));
  if (notKept)
    return {
      ok: false,
      reason: `The drawer does not keep a “${notKept}”: note it in the design, or write a part of one of its kinds.`,
    };
  const kind = kindOf(words);
  if (words.length === 0) return { ok: false, reason: 'Nothing entered. Write a part, such as 100p 15kV cer x30.' };
  if (!kind)
    return {
      ok: false,
      reason: `What kind of part is “${line.trim()}”? Add a word such as cap, diode, res, core, wire, transformer or module.`,
    };
  const part: Record<string, unknown> = { id, kind };
  const left: string[] = [];
  const marked = kind === 'capacitor' ? capacitorMarking : kind === 'resistor' ? resistorMarking : () => null;
  // "10 disc caps 100pF": a bare number before everything else is a count where the value is named besides.
  const named =
    kind === 'capacitor' || kind === 'resistor' ? words.slice(1).some((word) => valueOf(word, kind) !== null) : true;
  if (/^\d{1,5}$/.test(words[0]) && named && words.length > 1) part.count = Number(words.shift());
  for (const word of words) {
    const low = word.toLowerCase();
    const marking = marked(word);
    const numbered = kind === 'diode' ? numberedDiode(word) : null;
    const gauge = kind === 'wire' ? gaugeMetres(word) : null;
    const doubtful = kind === 'capacitor' && /^\d\d0$/.test(word) && part.farads === undefined;
    if (doubtful)
      return {
        ok: false,
        reason: `“${word}” printed on a capacitor is ${formatQuantity(Number(word.slice(0, 2)) * 1e-12, 'F')}. Write ${Number(word.slice(0, 2))}p for that, or ${word}p.`,
      };
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
    } else if (kindWord(word) === kind) continue;
    else if (marking && part[VALUE_FIELDS[kind]!] === undefined) {
      part[VALUE_FIELDS[kind]!] = marking.value;
      if (marking.tolerance !== null) part.tolerance = marking.tolerance;
    } else if (numbered) {
      Object.assign(part, numbered);
      left.push(word);
    } else if (gauge !== null) part.wireMetres = gauge;
    else if (kind === 'capacitor' && DIELECTRIC_WORDS.has(low)) part.dielectric = DIELECTRIC_WORDS.get(low);
    else if (length && LENGTHS[kind]) {
      const place = LENGTHS[kind]?.[length[2].replace('²', '2') as 'mm'];
      if (!place) left.push(word);
      else part[place[0]] = Number((Number(length[1].replace(',', '.')) * place[1]).toPrecision(12));
    } else {
      const place = PLACES[kind].find(([unit, field]) => part[field] === undefined && belongs(word, unit, kind));
      const read = place && readQuantity(word, place[0]);
      if (place && read?.ok) part[read.alternating && kind === 'capacitor' ? 'ratedAcVolts' : place[1]] = read.value;
      else if (/^[\d.,]+[^\d\s]*$/.test(word))
        return {
          ok: false,
          reason: `“${word}” is not understood here. Values need their units, as in ${EXAMPLE_LINES[kind]}.`,
        };
      else left.push(word);
    }
  }
  const farads = kind === 'capacitor' ? part.farads : undefined;
  if (typeof farads === 'number' && farads > MOST_FARADS)
    return {
      ok: false,
      reason: `A capacitor of ${formatQuantity(farads, 'F')}? Write its unit with it, as in 100p, 4n7 or 10u.`,
    };
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

/** Which field a marking is of. */
const VALUE_FIELDS: Partial<Record<PartKind, string>> = { capacitor: 'farads', resistor: 'ohms' };

/** More than a capacitor of this trade has, F. */
const MOST_FARADS = 0.5;

const EXAMPLE_LINES: Record<PartKind, string> = {
  capacitor: '100p 15kV cer x30',
  diode: 'diode 20kV 5mA 100ns x16',
  resistor: '1M 2W 3.5kV res x10',
  transistor: 'fet 200V 30A 30mΩ',
  core: 'core 110mm2',
  wire: 'wire 0.1mm 50m or wire AWG 38',
  insulation: 'insulation 0.05mm 7kV',
  transformer: 'transformer 1:60 420Ω',
  module: 'module 4kV 30kHz 15W',
};

/** What a capacitor's or resistor's value would be by a word that names its unit, its prefix or its marking; null for any other. */
function valueOf(word: string, kind: 'capacitor' | 'resistor'): number | null {
  const marking = kind === 'capacitor' ? capacitorMarking(word) : resistorMarking(word);
  if (marking) return marking.value;
  const unit = kind === 'capacitor' ? 'F' : 'Ω';
  const read = /[a-zµμΩ]/i.test(word) && belongs(word, unit, kind) ? readQuantity(word, unit) : null;
  return read?.ok ? read.value : null;
}

/** Whether a word is a quantity of this unit: named, or bare where the kind leaves no doubt. */
function belongs(word: string, unit: Unit, kind: PartKind): boolean {
  if (!/^[\d.,]/.test(word) && !/^R\d/i.test(word)) return false;
  if (namesUnit(word, unit)) return true;
  const bare = kind === 'capacitor' ? unit === 'F' : kind === 'resistor' ? unit === 'Ω' : false;
  return bare && readQuantity(word, unit).ok && /^\d*[.,]?\d*([pnumkMGRr]\d*)?$/.test(word);
}

const fieldWords = (field: string) => field.replace(/([A-Z])/g, ' $1').toLowerCase();
