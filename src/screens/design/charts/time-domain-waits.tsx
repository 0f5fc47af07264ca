import type { TimeDomain } from '../use-transient';

/** What stands where the time domain will be. */
export function TimeDomainWaits({ timeDomain }: { timeDomain: TimeDomain }) {
  return (
    <p role="status" className="px-1 py-6 text-soft">
      {timeDomain.kind === 'failed'
        ? `The time domain could not be computed: ${timeDomain.reason}`
        : `Settling in the time domain${timeDomain.kind === 'working' && timeDomain.periods > 9 ? `, ${timeDomain.periods} periods so far` : ''}…`}
    </p>
  );
}
