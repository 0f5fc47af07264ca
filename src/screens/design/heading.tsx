'use client';

import Target from 'lucide-react/icons/target';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { TARGET_FORMS, type Design } from '@/core/design/design-schema';
import { TARGET_FORM_NAMES } from '@/core/predict/target';
import { signedVolts, type Polarity } from '@/core/quantity/polarity';
import { Quantity } from '@/ui/quantity';
import { Choice } from '@/ui/choice';
import { QuantityField } from '@/ui/quantity-field';
import type { EditorStore } from './saving/editor-store';
import { useListening } from '@/ui/use-listening';

/** The design's name and its target, both edited in place, with what can be done with it beside the name. */
export function Heading({ store, children }: { store: EditorStore; children: ReactNode }) {
  const design = useStore(store, (state) => state.design);
  return (
    <div className="flex min-w-0 flex-1 flex-wrap items-start justify-end gap-x-3 sm:flex-nowrap">
      <div className="min-w-0 flex-[1_1_100%] sm:min-w-[20.5rem] sm:flex-1">
        <NameField store={store} name={design.name} />
        <Popover.Root>
          <Popover.Trigger className="-ml-1 flex max-w-full items-center gap-1.5 rounded px-1 text-left text-soft hover:bg-tint hover:text-ink">
            <Target className="size-3.5 shrink-0" aria-hidden="true" />
            <span className="truncate">
              <TargetLine target={design.target} polarity={design.ladder.polarity} />
            </span>
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="start"
              sideOffset={4}
              className="z-30 w-80 rounded-md border border-rule bg-paper p-3"
            >
              <TargetFields store={store} target={design.target} polarity={design.ladder.polarity} />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </div>
      {children}
    </div>
  );
}

function NameField({ store, name }: { store: EditorStore; name: string }) {
  const listening = useListening();
  const [draft, setDraft] = useState<{ text: string; fault: string | null } | null>(null);
  const fault = draft?.fault ?? null;
  return (
    <>
      <input
        aria-label="Name of the design"
        aria-invalid={fault !== null}
        aria-describedby={fault ? 'name-fault' : undefined}
        value={draft?.text ?? name}
        readOnly={!listening}
        title={name}
        onChange={(event) =>
          setDraft({ text: event.target.value, fault: store.getState().edit('$.name', event.target.value) })
        }
        onBlur={() => setDraft(null)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
        }}
        className="-ml-1 w-full rounded border border-transparent bg-transparent px-1 text-xl font-semibold tracking-tight text-ellipsis hover:border-rule focus:border-copper focus:bg-sheet"
      />
      {fault ? (
        <p id="name-fault" role="alert" className="text-xs text-over">
          {fault}
        </p>
      ) : null}
    </>
  );
}

function TargetLine({ target, polarity }: { target: Design['target']; polarity: Polarity }) {
  if (!target) return <>Set a target</>;
  return (
    <>
      to reach <Quantity value={signedVolts(target.volts, polarity)} unit="V" />
      {target.of === 'mean' ? '' : ` ${TARGET_FORM_NAMES[target.of].toLowerCase()}`}
      {target.amps > 0 ? (
        <>
          {' '}
          at <Quantity value={target.amps} unit="A" />
        </>
      ) : null}
      {target.ripplePeakToPeakFraction === null ? null : (
        <>
          , ripple under <Quantity value={target.ripplePeakToPeakFraction} unit="%" digits={2} />
        </>
      )}
    </>
  );
}

function TargetFields({
  store,
  target,
  polarity,
}: {
  store: EditorStore;
  target: Design['target'];
  polarity: Polarity;
}) {
  const { edit } = store.getState();
  /** A sign typed with the voltage is the ladder's polarity; without one that stays. */
  const setVolts = (value: number) => {
    const refused = set({ volts: Math.abs(value) });
    if (refused === null && value < 0 && polarity === 'positive') edit('$.ladder.polarity', 'negative');
    return refused;
  };
  const set = (part: Partial<NonNullable<Design['target']>>) =>
    edit('$.target', {
      volts: 1000,
      amps: 0,
      ripplePeakToPeakFraction: null,
      of: 'mean',
      ...target,
      ...part,
    });
  return (
    <>
      <h2 className="mb-1 font-semibold">Target at the load</h2>
      <QuantityField
        label="Voltage"
        unit="V"
        optional
        placeholder="no target"
        value={target ? signedVolts(target.volts, polarity) : null}
        onValue={(value) => (value === null ? edit('$.target', null) : setVolts(value))}
      />
      {target ? (
        <>
          <QuantityField label="Current" unit="A" value={target.amps} onValue={(value) => set({ amps: value ?? 0 })} />
          <QuantityField
            label="Ripple, peak to peak"
            unit="%"
            optional
            placeholder="any"
            value={target.ripplePeakToPeakFraction}
            onValue={(value) => set({ ripplePeakToPeakFraction: value })}
          />
          <Choice
            label="What is to reach it"
            value={target.of}
            options={TARGET_FORMS.map((value) => ({ value, name: TARGET_FORM_NAMES[value] }))}
            onValue={(of) => set({ of })}
          />
        </>
      ) : null}
    </>
  );
}
