'use client';

import Link from 'next/link';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useDrawer } from '@/client/drawer-store';
import { inShort } from '@/core/parts/part-fields';
import { partsUsed, stockOf } from '@/core/drawer/parts-used';
import type { Place } from '@/core/parts/place';
import { choicesFor } from '@/core/drawer/places/places';
import { partIdAt, placeOf } from '@/core/drawer/places/places-of';
import { FitMark } from '@/ui/fit-mark';
import type { Editing } from './editing';

/** What stands in one place taken from the drawer: which part, and whether there are enough. */
export function FromDrawer(props: Editing & { /** Its id. */ place: string }) {
  const place = placeOf(props.design, props.place);
  return place ? <PlaceFromDrawer {...props} place={place} /> : null;
}

function PlaceFromDrawer({ store, design, prediction, place }: Editing & { place: Place }) {
  const { drawer, load } = useDrawer();
  const [failed, setFailed] = useState(false);
  const [open, setOpen] = useState(false);
  const partId = partIdAt(design, place);
  const { name, takes: kind } = place;
  useEffect(() => {
    if (partId !== null || open)
      load().then(
        () => setFailed(false),
        () => setFailed(true),
      );
  }, [partId, open, load]);
  const { id: designId } = store.getState();
  const others = (drawer?.uses ?? []).filter((use) => use.designId !== designId);
  const part = drawer?.parts.find(({ id }) => id === partId) ?? null;
  const taken = partId === null ? 0 : (partsUsed(design).get(partId) ?? 0);
  const left = part ? stockOf(part, others).free - taken : 0;
  const choices = open ? choicesFor(design, place, prediction, drawer?.parts ?? [], others) : [];
  return (
    <div className="py-[3px] text-[13px]" data-from-drawer={place.id}>
      {part ? (
        <p className="flex flex-wrap items-baseline gap-x-1.5">
          <FitMark fit={left < 0 ? 'over' : 'fits'} />
          <span className="min-w-0 flex-1">
            {part.name}: {taken} of {part.count},{' '}
            <span className={left < 0 ? 'text-over' : 'text-soft'}>{left < 0 ? `${-left} short` : `${left} left`}</span>
          </span>
        </p>
      ) : partId !== null && drawer ? (
        <p className="text-soft">{name}: the part it came from is no longer in the drawer.</p>
      ) : null}
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className="text-copper hover:underline">
          {part ? 'Another from the drawer…' : `${name} from the drawer…`}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            collisionPadding={8}
            aria-label={`${name} in the drawer`}
            className="z-60 max-h-[60vh] w-80 max-w-[calc(100vw-1rem)] overflow-y-auto rounded-md border border-rule bg-paper p-1.5"
          >
            {failed ? (
              <p role="alert" className="p-2 text-[13px] text-over">
                The drawer could not be opened: the server cannot be reached.
              </p>
            ) : choices.length === 0 ? (
              <p className="p-2 text-[13px] text-soft">
                {drawer ? `No ${kind} that fits here is in the drawer. ` : 'Opening the drawer…'}
                {drawer ? (
                  <Link href="/drawer" className="text-copper underline">
                    Put some in
                  </Link>
                ) : null}
              </p>
            ) : (
              <ul>
                {choices.map(({ part: choice, words, wanted, free, design: made }) => (
                  <li key={choice.id}>
                    <button
                      type="button"
                      onClick={() => {
                        store.getState().replace(made);
                        setOpen(false);
                      }}
                      aria-current={choice.id === partId}
                      className="flex w-full items-baseline justify-between gap-3 rounded px-2 py-1.5 text-left hover:bg-tint aria-[current=true]:bg-tint"
                    >
                      <span className="min-w-0">
                        {choice.name}
                        <span className="block text-xs text-soft">
                          {[inShort(choice), words].filter((text) => text !== '').join(', ')}
                        </span>
                      </span>
                      <span className={`text-[13px] whitespace-nowrap ${wanted > free ? 'text-over' : 'text-soft'}`}>
                        {wanted} wanted, {free} free
                      </span>
                    </button>
                  </li>
                ))}
              </ul>
            )}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}
