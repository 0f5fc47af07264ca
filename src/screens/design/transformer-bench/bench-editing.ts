import type { Winding } from '@/core/design/winding-schema';
import type { BenchDesign } from '@/core/winding/bench';
import type { Editing } from '../chain/editing';

/** What every page of the bench works on. */
export type BenchEditing = Editing & {
  winding: Winding;
  /** Sets one field of the sheet, by its path within it; answers what is wrong, or null. */
  set: (path: string, value: unknown) => string | null;
  /** Takes a result into the design and says so. */
  take: (path: string, value: number | boolean, what: string) => void;
  /** The wound transformer and what is around it; null where the driver has none of its own. */
  around: BenchDesign | null;
};
