import type { StepUp } from '../../bench/steps-up';
import type { DeadPlan } from '../../dead/plan';
import type { Design } from '../../design/design-schema';
import type { Prediction } from '../../predict/prediction';
import { formatQuantity } from '../../quantity/format-quantity';
import type { Unit } from '../../quantity/units';
import type { Insulation } from '../insulation';
import type { Layout } from '../layout';
import type { PartsList } from '../parts-list';

/** Pictures that a sheet has, each drawn by the page. */
export type PictureKind = 'winding' | 'layout' | 'wiring';

/** What a sheet is made of, in words: a page and a text file read the same. */
export type Block =
  | { kind: 'text'; text: string; isWarning?: true }
  | { kind: 'table'; label: string; head: readonly Head[]; rows: readonly Row[] }
  /** Things to do in their turn, each with an id of its own. */
  | { kind: 'steps'; label: string; steps: readonly { id: string; title: string; text: string }[] }
  | { kind: PictureKind };
export type Head = { name: string; isNumber?: true };
/** `isMarked`: that one should look at it. */
export type Row = { cells: readonly string[]; isMarked?: boolean };

export type SheetSection = { id: string; title: string; blocks: readonly Block[] };

/** All that a sheet is made from; null for what is not known yet, or not to be had. */
export type SheetInputs = {
  design: Design;
  prediction: Prediction;
  insulation: Insulation | null;
  layout: Layout | null;
  /** Whether there is a diagram of it. */
  hasWiring: boolean;
  parts: PartsList;
  steps: readonly StepUp[];
  dead: DeadPlan | null;
};

export const NONE = '–';
/** A quantity, or what stands where there is none. */
export const say = (value: number | null | undefined, unit: Unit, digits = 3): string =>
  value === null || value === undefined ? NONE : formatQuantity(value, unit, digits);
/** Heads of columns; those that end in # hold numbers. */
export const heads = (...names: readonly string[]): Head[] =>
  names.map((name) => (name.endsWith('#') ? { name: name.slice(0, -1), isNumber: true } : { name }));
