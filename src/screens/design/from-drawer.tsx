'use client';

import Link from 'next/link';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useDrawer } from '@/client/drawer-store';
import { inShort, mainValue } from '@/core/drawer/part-fields';
import type { Part } from '@/core/drawer/part-schema';
import { partsUsed, stockOf, withPart } from '@/core/drawer/parts-used';
import { seriesFor } from '@/core/stress/strings';
import { FitMark } from '@/ui/fit-mark';
import type { Editing } from './editing';

const NAMES = { capacitor: 'Capacitors', diode: 'Diodes' } as const;

/** The fewest of a part in series that carry a stress with the usual margin; null where its rating is not known. */
function stringOf(part: Part, stressVolts: number): number | null {
  if (part.kind === 'capacitor') return seriesFor('capacitor', part, stressVolts);
  if (part.kind === 'diode')
    return seriesFor('diode', { ratedVolts: part.peakInverseVolts, tolerance: 0 }, stressVolts);
  return null;
}

/** The ladder's capacitors or diodes taken from the drawer: which part, and whether there are enough. */
export function FromDrawer({ store, design, prediction, kind }: Editing & { kind: 'capacitor' | 'diode' }) {
  const { drawer, load } = useDrawer();
  const [failed, setFailed] = useState(false);
  const [open, setOpen] = useState(false);
  const { partId } = design.ladder[kind];
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
  // Voltages without load hardly hang on the part, so that a string for these is one for its own.
  const stressVolts =
    kind === 'capacitor'
      ? Math.max(...prediction.capacitors.map((one) => one.workingVolts))
      : Math.max(...prediction.diodes.map((one) => one.reverseVolts));
  // What is there in number comes first, then what takes the fewest parts.
  const choices = (drawer?.parts ?? [])
    .filter((one) => one.kind === kind)
    .map((one) => {
      const series = stringOf(one, stressVolts);
      const wanted = partsUsed(withPart(design, one, series ?? 1)).get(one.id) ?? 0;
      return { one, series, wanted, free: Math.max(0, stockOf(one, others).free) };
    })
    .sort(
      (a, b) =>
        Number(a.wanted > a.free) - Number(b.wanted > b.free) ||
        a.wanted - b.wanted ||
        (mainValue(a.one) ?? 0) - (mainValue(b.one) ?? 0),
    );
  const choose = (chosen: Part, series: number) => {
    store.getState().replace(withPart(design, chosen, series));
    setOpen(false);
  };
  return (
    <div className="py-[3px] text-[13px]" data-from-drawer={kind}>
      {part ? (
        <p className="flex flex-wrap items-baseline gap-x-1.5">
          <FitMark fit={left < 0 ? 'over' : 'fits'} />
          <span className="min-w-0 flex-1">
            {part.name}: {taken} of {part.count},{' '}
            <span className={left < 0 ? 'text-over' : 'text-soft'}>{left < 0 ? `${-left} short` : `${left} left`}</span>
          </span>
        </p>
      ) : partId !== null && drawer ? (
        <p className="text-soft">{NAMES[kind]} came from a part that is no longer in the drawer.</p>
      ) : null}
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className="text-copper hover:underline">
          {part ? 'Another from the drawer…' : `${NAMES[kind]} from the drawer…`}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            collisionPadding={8}
            aria-label={`${NAMES[kind]} in the drawer`}
            className="z-30 max-h-[60vh] w-80 max-w-[calc(100vw-1rem)] overflow-y-auto rounded-md border border-rule bg-paper p-1.5"
          >
            {failed ? (
              <p role="alert" className="p-2 text-[13px] text-over">
                The drawer could not be opened: the server cannot be reached.
              </p>
            ) : choices.length === 0 ? (
              <p className="p-2 text-[13px] text-soft">
                {drawer ? `No ${kind} is in the drawer. ` : 'Opening the drawer…'}
                {drawer ? (
                  <Link href="/drawer" className="text-copper underline">
                    Put some in
                  </Link>
                ) : null}
              </p>
            ) : (
              <ul>
                {choices.map(({ one: choice, series, wanted, free }) => (
                  <li key={choice.id}>
                    <button
                      type="button"
                      onClick={() => choose(choice, series ?? 1)}
                      aria-current={choice.id === partId}
                      className="flex w-full items-baseline justify-between gap-3 rounded px-2 py-1.5 text-left hover:bg-tint aria-[current=true]:bg-tint"
                    >
                      <span className="min-w-0">
                        {choice.name}
                        <span className="block text-xs text-soft">
                          {inShort(choice)}
                          {series === null ? '' : series === 1 ? ', one carries it' : `, ${series} in series carry it`}
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
