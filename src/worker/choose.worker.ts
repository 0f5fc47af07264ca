import { expose } from 'comlink';
import { choose, type Choices, type ChoosingState } from '@/core/choose/choose';
import { settleChoice, type ChoiceTimeDomain } from '@/core/choose/choice-time-domain';
import type { ChoiceRow } from '@/core/choose/row';
import type { SearchTask } from '@/core/choose/search';
import type { Design } from '@/core/design/design-schema';
import { slicer } from './in-slices';

/** How far a search is; what it has found so far now and then. */
export type ChoosingReport = Omit<ChoosingState, 'soFar'> & { rows: ChoiceRow[] | null };

/** How often what has been found so far is made ready to be shown, ms: that takes from the search. */
const ROWS_EVERY_MILLISECONDS = 300;

const KINDS = ['choose', 'settle'] as const;
const slices = slicer(KINDS);

const work = {
  choose(task: SearchTask, report: (state: ChoosingReport) => void): Promise<Choices | null> {
    let shownAt = -Infinity;
    return slices.run('choose', choose(task), ({ soFar, ...state }) => {
      const due = state.fitting > 0 && performance.now() - shownAt > ROWS_EVERY_MILLISECONDS;
      if (due) shownAt = performance.now();
      report({ ...state, rows: due ? soFar() : null });
    });
  },
  settle(design: Design): Promise<ChoiceTimeDomain | null> {
    return slices.run('settle', settleChoice(design), () => undefined);
  },
  cancel(kind: (typeof KINDS)[number]): void {
    slices.cancel(kind);
  },
};

export type ChooseWork = typeof work;

expose(work);
