import type { Sparks } from '@/core/output/sparks';
import { Quantity } from '@/ui/quantity';
import { LoadRow } from './load-row';

/** What a gap's sparks are like, and how soon one follows another. */
export function SparkRows({ sparks: { joules, leastSeconds, goesOut } }: { sparks: Sparks }) {
  return (
    <dl aria-label="Sparks" className="mt-2 border-t border-rule pt-2 text-[13.5px]">
      <LoadRow name="In each spark, of what hangs there" id="joules">
        {joules === null ? 'nothing hangs there' : <Quantity value={joules} unit="J" digits={3} />}
      </LoadRow>
      <LoadRow name="To the next, at least" id="refill">
        {leastSeconds === null ? 'by Charge-up' : <Quantity value={leastSeconds} unit="s" digits={2} />}
      </LoadRow>
      <LoadRow name="The arc" id="goes-out">
        {goesOut ? 'goes out of itself' : 'stays lit'}
      </LoadRow>
      <dd className="text-xs text-soft">
        A grid has its capacitance between the wires: enter it as what hangs on the output. The ladder gives its own
        charge on top through whatever is in series.
      </dd>
    </dl>
  );
}
