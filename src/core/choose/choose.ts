import { sayQuantity } from '../quantity/format-quantity';
import type { Ask } from './requirements';
import { rowOf, type ChoiceRow } from './row';
import { candidateFamily, search, type Candidate, type SearchState, type SearchTask } from './search';
import { beats, ranked, thinned, unbeaten } from './trade-off';

/** What would be gained by getting more of one part. */
export type Wish = { part: string; count: number; price: number | null; row: ChoiceRow };

export type Choices = {
  tried: number;
  of: number;
  fitting: number;
  /** Best all in one first: what none of the others beats, or what comes nearest when nothing reaches the target. */
  rows: ChoiceRow[];
  reached: boolean;
  wishes: Wish[];
};

export type ChoosingState = {
  /** Part that is done of the search and of looking closely at what it found. */
  part: number;
  tried: number;
  of: number;
  fitting: number;
  /** What has been found so far, to be asked for only when it is shown. */
  soFar: () => ChoiceRow[];
};

const MOST_ROWS = 60;
/** Rows shown while the search goes on. */
const ROWS_SO_FAR = 8;
/** Of the whole, what the search itself takes; the rest looks closely at what it found. */
const PART_OF_SEARCH = 0.8;
const MOST_JUDGED = 400;
const WISHES_JUDGED = 6;
const MOST_WISHES = 4;

/**
 * The ways to build a ladder for a target, as a trade-off: every candidate by
 * the closed form, those that nothing beats predicted whole, none with a
 * finding that must stop it.
 *
 * @param most rows to give back
 */
export function* choose(task: SearchTask, most = MOST_ROWS): Generator<ChoosingState, Choices> {
  const { ask } = task;
  const running = search(task);
  let state: SearchState | null = null;
  for (;;) {
    const step = running.next();
    state = step.value;
    if (step.done) break;
    const { tried, of, fitting, kept } = state;
    const part = (PART_OF_SEARCH * tried) / Math.max(1, of);
    yield {
      part,
      tried,
      of,
      fitting,
      soFar: () => rowsOf(thinned(kept.kept, ROWS_SO_FAR, candidateFamily), ask).filter(({ met }) => met),
    };
  }
  const { tried, of, fitting } = state;
  const rows: ChoiceRow[] = [];
  const progress = (part: number): ChoosingState => ({
    part: PART_OF_SEARCH + (1 - PART_OF_SEARCH) * part,
    tried,
    of,
    fitting,
    soFar: () => rows.slice(0, ROWS_SO_FAR),
  });
  const judged = thinned(state.kept.kept, MOST_JUDGED, candidateFamily);
  for (const [at, candidate] of judged.entries()) {
    const row = rowOf(candidate, ask);
    if (row?.met) rows.push(row);
    yield progress((0.9 * at) / judged.length);
  }
  const reached = rows.length > 0;
  if (!reached)
    for (const candidate of state.nearest) {
      const row = rowOf(candidate, ask);
      if (row) rows.push(row);
      yield progress(0.9);
    }
  const best = reached ? thinned(unbeaten(rows), most, rowFamily) : nearestFirst(rows, ask).slice(0, most);
  const wishes: Wish[] = [];
  for (const wish of state.wishes.values()) {
    const [row] = thinned(
      rowsOf(thinned(wish.kept, WISHES_JUDGED, candidateFamily), ask).filter(({ met }) => met),
      1,
      rowFamily,
    );
    const lacking = row?.taken.find((part) => part.lacking > 0);
    if (row && lacking) wishes.push({ part: lacking.name, count: lacking.lacking, price: row.toBuyPrice, row });
    yield progress(0.95);
  }
  return { tried, of, fitting, rows: best, reached, wishes: worthGetting(wishes, reached ? best : []) };
}

const rowFamily = ({ family }: ChoiceRow) => family;

function rowsOf(candidates: readonly Candidate[], ask: Ask): ChoiceRow[] {
  return candidates.flatMap((candidate) => rowOf(candidate, ask) ?? []);
}

function nearestFirst(rows: readonly ChoiceRow[], { target }: Ask): ChoiceRow[] {
  const allowed = target.ripplePeakToPeakFraction ?? Infinity;
  const short = ({ meanVolts, rippleFraction }: ChoiceRow) =>
    Math.max(target.volts / meanVolts, rippleFraction / allowed);
  return [...rows].sort((a, b) => short(a) - short(b));
}

/** Purchases that nothing from the drawer beats and that better its best clearly, the best all in one first. */
function worthGetting(wishes: readonly Wish[], rows: readonly ChoiceRow[]): Wish[] {
  const inOrder = ranked(wishes.map((wish) => ({ wish, costs: wish.row.costs })));
  return inOrder
    .filter(({ wish }) => rows.length === 0 || betterIn(wish.row, rows[0]).length > 0)
    .filter(({ costs }) => !rows.some((row) => beats(row.costs, costs)))
    .slice(0, MOST_WISHES)
    .map(({ wish }) => wish);
}

/** Part by which a figure must differ to be named. */
const WORTH_NAMING = 0.05;

/** What a choice is clearly better in than another, in words: "28 parts instead of 32". */
export function betterIn(row: ChoiceRow, other: ChoiceRow): string[] {
  const less = (mine: number, theirs: number) => mine < (1 - WORTH_NAMING) * theirs;
  const percent = (part: number | null) => sayQuantity(part ?? 0, '%', 2);
  const [mine, theirs] = [1 + (row.margin ?? 0), 1 + (other.margin ?? 0)];
  return [
    less(row.parts, other.parts) ? `${row.parts} parts instead of ${other.parts}` : '',
    less(row.rippleFraction, other.rippleFraction)
      ? `ripple ${percent(row.rippleFraction)} instead of ${percent(other.rippleFraction)}`
      : '',
    less(row.joules, other.joules)
      ? `${sayQuantity(row.joules, 'J')} stored instead of ${sayQuantity(other.joules, 'J')}`
      : '',
    less(theirs, mine) ? `margin ${percent(row.margin)} instead of ${percent(other.margin)}` : '',
    less(other.meanVolts, row.meanVolts)
      ? `output ${sayQuantity(row.meanVolts, 'V')} instead of ${sayQuantity(other.meanVolts, 'V')}`
      : '',
  ].filter((words) => words !== '');
}
