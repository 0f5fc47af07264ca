'use client';

import { format } from 'date-fns';
import { useMemo } from 'react';
import { toast } from 'sonner';
import { faradsAtSecondary, idleRead, lossOfIdle, ringFit, tankRings } from '@/core/bench/driver-fit';
import { withDriverFit, type DriverFitted } from '@/core/bench/fit-to-design';
import type { SessionReadings } from '@/core/bench/session';
import type { Design } from '@/core/design/design-schema';
import { buttonStyle } from '@/ui/button';
import { Quantity } from '@/ui/quantity';
import type { EditorStore } from '../saving/editor-store';

/** What frequencies and the idle current tell of a driver with a tank. */
export function DriverFit({
  design,
  sessions,
  store,
  isPresent,
}: {
  design: Design;
  sessions: readonly SessionReadings[];
  store: EditorStore;
  isPresent: boolean;
}) {
  const { rings, loss } = useMemo(() => {
    const entries = sessions.flatMap(({ readings }) => readings);
    const amps = idleRead(entries);
    return {
      rings: ringFit(tankRings(design, entries)),
      loss: amps === null ? null : lossOfIdle(design, amps),
    };
  }, [design, sessions]);
  if (!rings && !loss) return null;
  const atSecondary = rings?.withOwn ? faradsAtSecondary(design, rings.withOwn.farads) : null;
  const taken: DriverFitted = {
    ...(rings ? { henries: rings.henries } : {}),
    ...(loss ? { quality: loss.quality } : {}),
  };
  return (
    <div className="mt-3 max-w-2xl text-[13.5px]" data-bench="driver-fit">
      {rings ? (
        <p>
          {rings.each.length === 1 ? 'The frequency gives' : `${rings.each.length} frequencies give`} a primary
          inductance of <Quantity value={rings.henries} unit="H" />, with 90 % <Quantity value={rings.low} unit="H" />{' '}
          to <Quantity value={rings.high} unit="H" />
          {rings.scatter === null ? null : (
            <>
              ; individual values are off by about <Quantity value={rings.scatter} unit="%" digits={2} />
            </>
          )}
          .{' '}
          {rings.withOwn ? (
            <>
              A capacitance of <Quantity value={rings.withOwn.farads} unit="F" /> more beside the tank
              {atSecondary === null ? null : (
                <>
                  , <Quantity value={atSecondary} unit="F" /> at the secondary,
                </>
              )}{' '}
              with <Quantity value={rings.withOwn.henries} unit="H" /> explains them better.
            </>
          ) : null}
        </p>
      ) : null}
      {loss ? (
        <p>
          Without load the driver loses <Quantity value={loss.watts} unit="W" />: a quality factor of the tank of{' '}
          <Quantity value={loss.quality} unit="" />.
        </p>
      ) : null}
      <p className="no-print mt-1">
        <button
          type="button"
          className={buttonStyle('plain')}
          disabled={!isPresent}
          onClick={() => {
            store.getState().replace(withDriverFit(store.getState().design, taken, format(new Date(), 'd MMM yyyy')));
            toast('The driver counts with what was read now; undo brings back what stood.');
          }}
        >
          Take the driver’s figures into the design
        </button>
      </p>
    </div>
  );
}
