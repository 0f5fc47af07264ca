import { formatQuantity } from '../quantity/format-quantity';
import type { Requirements } from './requirements';
import { rowOf, type ChoiceRow } from './row';
import { candidateFamily, search, type Candidate, type SearchState, type SearchTask } from './search';
import { beats, ranked, thinned, unbeaten } from './trade-off';

/** What would be gained by getting more of one part. */
export type Purchase = { part: string; count: number; price: number | null; row: ChoiceRow };

export type Choices = {
  evaluated: number;
  of: number;
  fitting: number;
  /** Those that overshoot the target least first, the best all in one first among about as close ones: what none of the others beats, or what comes nearest when nothing reaches the target. */
  rows: ChoiceRow[];
  reached: boolean;
  purchases: Purchase[];
};

export type ChoosingState = {
  /** Fraction that is done of the search and of looking closely at what it found. */
  fraction: number;
  evaluated: number;
  of: number;
  fitting: number;
  /** What has been found so far, to be asked for only when it is shown. */
  soFar: () => ChoiceRow[];
};

const MOST_ROWS = 60;
/** Rows shown while the search goes on. */
const ROWS_SO_FAR = 8;
/** Of the whole, what the search itself takes; the rest looks closely at what it found. */
const SEARCH_FRACTION = 0.8;
const MOST_JUDGED = 400;
const PURCHASES_JUDGED = 6;
const MOST_PURCHASES = 4;

/**
 * The ways to build a ladder for a target, as a trade-off: every candidate by
 * the closed form, those that nothing beats predicted whole, none with a
 * finding that must stop it.
 *
 * @param most rows to give back
 */
export function* choose(task: SearchTask, most = MOST_ROWS): Generator<ChoosingState, Choices> {
  const { requirements } = task;
  const running = search(task);
  let state: SearchState | null = null;
  for (;;) {
    const step = running.next();
    state = step.value;
    if (step.done) break;
    const { evaluated, of, fitting, kept } = state;
    const fraction = (SEARCH_FRACTION * evaluated) / Math.max(1, of);
    yield {
      fraction,
      evaluated,
      of,
      fitting,
      soFar: () => rowsOf(thinned(kept.kept, ROWS_SO_FAR, candidateFamily), requirements).filter(({ met }) => met),
    };
  }
  const { evaluated, of, fitting } = state;
  const rows: ChoiceRow[] = [];
  const progress = (fraction: number): ChoosingState => ({
    fraction: SEARCH_FRACTION + (1 - SEARCH_FRACTION) * fraction,
    evaluated,
    of,
    fitting,
    soFar: () => rows.slice(0, ROWS_SO_FAR),
  });
  const judged = thinned(state.kept.kept, MOST_JUDGED, candidateFamily);
  for (const [at, candidate] of judged.entries()) {
    const row = rowOf(candidate, requirements);
    if (row?.met) rows.push(row);
    yield progress((0.9 * at) / judged.length);
  }
  const reached = rows.length > 0;
  if (!reached)
    for (const candidate of state.nearest) {
      const row = rowOf(candidate, requirements);
      if (row) rows.push(row);
      yield progress(0.9);
    }
  const best = reached
    ? closestFirst(thinned(unbeaten(rows), most, rowFamily))
    : nearestFirst(rows, requirements).slice(0, most);
  const purchases: Purchase[] = [];
  for (const purchase of state.purchases.values()) {
    const [row] = thinned(
      rowsOf(thinned(purchase.kept, PURCHASES_JUDGED, candidateFamily), requirements).filter(({ met }) => met),
      1,
      rowFamily,
    );
    const missing = row?.taken.find((part) => part.missing > 0);
    if (row && missing) purchases.push({ part: missing.name, count: missing.missing, price: row.toBuyPrice, row });
    yield progress(0.95);
  }
  return { evaluated, of, fitting, rows: best, reached, purchases: worthGetting(purchases, reached ? best : []) };
}

const rowFamily = ({ family }: ChoiceRow) => family;

function rowsOf(candidates: readonly Candidate[], requirements: Requirements): ChoiceRow[] {
  return candidates.flatMap((candidate) => rowOf(candidate, requirements) ?? []);
}

/** How far over the target counts as as close, as upper ends of bands: within one the best all in one comes first. */
const CLOSE_BANDS = [0.1, 0.25, 0.5, 1, 2];

/** Rows that overshoot the target least first; the order they come in decides among those about as close. */
function closestFirst(rows: readonly ChoiceRow[]): ChoiceRow[] {
  const band = ({ excess }: ChoiceRow) => {
    const at = CLOSE_BANDS.findIndex((end) => excess <= end);
    return at < 0 ? CLOSE_BANDS.length : at;
  };
  return [...rows].sort((a, b) => band(a) - band(b));
}

function nearestFirst(rows: readonly ChoiceRow[], { target }: Requirements): ChoiceRow[] {
  const allowed = target.ripplePeakToPeakFraction ?? Infinity;
  const short = ({ excess, rippleFraction }: ChoiceRow) => Math.max(1 / (1 + excess), rippleFraction / allowed);
  return [...rows].sort((a, b) => short(a) - short(b));
}

/** Purchases that nothing from the drawer beats and that better its best clearly, the best all in one first. */
function worthGetting(purchases: readonly Purchase[], rows: readonly ChoiceRow[]): Purchase[] {
  const inOrder = ranked(purchases.map((purchase) => ({ purchase, costs: purchase.row.costs })));
  return inOrder
    .filter(({ purchase }) => rows.length === 0 || betterIn(purchase.row, rows[0]).length > 0)
    .filter(({ costs }) => !rows.some((row) => beats(row.costs, costs)))
    .slice(0, MOST_PURCHASES)
    .map(({ purchase }) => purchase);
}

/** Fraction by which a figure must differ to be named. */
const WORTH_NAMING = 0.05;

/** What a choice is clearly better in than another, in words: "28 parts instead of 32". */
export function betterIn(row: ChoiceRow, other: ChoiceRow): string[] {
  const less = (mine: number, theirs: number) => mine < (1 - WORTH_NAMING) * theirs;
  const percent = (fraction: number | null) => formatQuantity(fraction ?? 0, '%', 2);
  const [mine, theirs] = [1 + (row.margin ?? 0), 1 + (other.margin ?? 0)];
  return [
    less(row.parts, other.parts) ? `${row.parts} parts instead of ${other.parts}` : '',
    less(row.rippleFraction, other.rippleFraction)
      ? `ripple ${percent(row.rippleFraction)} instead of ${percent(other.rippleFraction)}`
      : '',
    less(row.joules, other.joules)
      ? `${formatQuantity(row.joules, 'J')} stored instead of ${formatQuantity(other.joules, 'J')}`
      : '',
    less(theirs, mine) ? `margin ${percent(row.margin)} instead of ${percent(other.margin)}` : '',
    less(other.meanVolts, row.meanVolts)
      ? `output ${formatQuantity(row.meanVolts, 'V')} instead of ${formatQuantity(other.meanVolts, 'V')}`
      : '',
  ].filter((words) => words !== '');
}
