import type { FaultReading } from '@/core/bench/faults/judge';
import { placeKey, saidOfPlace, type Place } from '@/core/bench/faults/next-reading';
import type { ProvingTest } from '@/core/bench/proving';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { sentence } from '@/core/quantity/sentence';
import { buttonStyle } from '@/ui/button';
import { Quantity } from '@/ui/quantity';

/** Where a reading can be taken: what a sound ladder shows there, and what the meter shows once it was put on. */
export function PlacesTable({
  test,
  places,
  taken,
  read,
  isOver,
  onTake,
}: {
  test: ProvingTest;
  places: readonly Place[];
  taken: readonly Place[];
  read: ReadonlyMap<string, FaultReading>;
  isOver: boolean;
  onTake: (place: Place) => void;
}) {
  const isTaken = (place: Place) => taken.some((one) => placeKey(one) === placeKey(place));
  const atOnce = places.filter((place) => place.kind === 'source' || place.heldSeconds === null);
  const heldAt = (node: string) =>
    places.flatMap((place) =>
      place.kind === 'tap' && place.node === node && place.heldSeconds !== null
        ? [{ place, seconds: place.heldSeconds }]
        : [],
    );
  return (
    <table className="mt-3 w-full text-left text-[13.5px]" aria-label="Readings">
      <thead className="text-soft">
        <tr className="border-b border-rule">
          <th className="py-1 pr-3 font-normal">Place</th>
          <th className="py-1 pr-3 text-right font-normal">If sound</th>
          <th className="py-1 text-right font-normal">Read</th>
        </tr>
      </thead>
      <tbody>
        {atOnce.map((place) => {
          const expected =
            place.kind === 'source' ? test.source : test.taps.find(({ node }) => node === place.node)?.reading;
          const held = place.kind === 'tap' && isTaken(place) ? heldAt(place.node) : [];
          return (
            <tr key={placeKey(place)} data-place={placeKey(place)} className="border-b border-rule align-top">
              <th scope="row" className="py-1.5 pr-3 font-normal">
                {sentence(place.kind === 'source' ? 'source' : place.node)}
              </th>
              <td className="py-1.5 pr-3 text-right text-soft">
                {expected ? <Quantity value={expected.value} unit="V" digits={4} /> : '–'}
              </td>
              <td className="py-1 text-right">
                <Taken place={place} isTaken={isTaken(place)} read={read} isOver={isOver} onTake={onTake} name="Read" />
                {held.length > 0 ? (
                  <div className="flex flex-wrap justify-end gap-x-3 text-[13px]">
                    {held.map(({ place: longer, seconds }) => (
                      <span key={placeKey(longer)} data-place={placeKey(longer)}>
                        {isTaken(longer) ? (
                          <span className="text-soft">after {formatQuantity(seconds, 's', 2)} </span>
                        ) : null}
                        <Taken
                          place={longer}
                          isTaken={isTaken(longer)}
                          read={read}
                          isOver={isOver}
                          onTake={onTake}
                          name={`Hold ${formatQuantity(seconds, 's', 2)}`}
                        />
                      </span>
                    ))}
                  </div>
                ) : null}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Taken({
  place,
  isTaken,
  read,
  isOver,
  onTake,
  name,
}: {
  place: Place;
  isTaken: boolean;
  read: ReadonlyMap<string, FaultReading>;
  isOver: boolean;
  onTake: (place: Place) => void;
  name: string;
}) {
  if (isTaken) {
    const reading = read.get(placeKey(place));
    return (
      <span className="text-[14.5px] font-semibold">
        {reading ? <Quantity value={reading.volts} unit="V" digits={4} /> : '…'}
      </span>
    );
  }
  return isOver ? null : (
    <button
      type="button"
      className={
        place.kind === 'tap' && place.heldSeconds !== null
          ? 'py-1 font-medium text-copper hover:underline'
          : buttonStyle('plain')
      }
      aria-label={`${name}: ${saidOfPlace(place)}`}
      onClick={() => onTake(place)}
    >
      {name}
    </button>
  );
}
