'use client';

import { Pick } from './pick';

type Named = { value: string; name: string };

/** A fault picked by its place and by what is wrong there. */
export function FaultPick({
  places,
  place,
  kinds,
  kind,
  onPick,
}: {
  places: readonly Named[];
  place: string;
  /** What can be wrong at the place. */
  kinds: readonly Named[];
  kind: string;
  onPick: (picked: { place: string; kind: string }) => void;
}) {
  return (
    <div className="no-print grid gap-2 sm:grid-cols-[12rem_minmax(0,1fr)]">
      <Pick
        label="Where the fault is"
        className="w-full"
        value={place}
        options={places}
        onValue={(to) => onPick({ place: to, kind })}
      />
      <Pick
        label="What is wrong there"
        className="w-full"
        value={kind}
        options={kinds}
        onValue={(to) => onPick({ place, kind: to })}
      />
    </div>
  );
}
