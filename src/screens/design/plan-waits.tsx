import type { Latest } from '@/ui/use-latest';

/** Where a plan that a worker makes stands, as long as it is not there. */
export function PlanWaits({ latest }: { latest: Latest<unknown, number> }) {
  if (latest.kind === 'failed') return <p className="py-4 text-over">The plan failed: {latest.reason}</p>;
  if (latest.kind !== 'working') return null;
  return (
    <p className="py-4 text-soft" role="status">
      Working it out, {Math.round(100 * (latest.progress ?? 0))} %
    </p>
  );
}
