'use client';

import Target from 'lucide-react/icons/target';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { useStore } from 'zustand';
import type { Design } from '@/core/design/design-schema';
import { signedVolts } from '@/core/quantity/polarity';
import { Quantity } from '@/ui/quantity';
import { PolarityChoice } from '@/ui/polarity-choice';
import { QuantityField } from '@/ui/quantity-field';
import type { EditorStore } from './saving/editor-store';

/** The design's name and its target, both edited in place. */
export function Heading({ store }: { store: EditorStore }) {
  const design = useStore(store, (state) => state.design);
  return (
    <div className="min-w-0 flex-1">
      <NameField store={store} name={design.name} />
      <Popover.Root>
        <Popover.Trigger className="-ml-1 flex max-w-full items-center gap-1.5 rounded px-1 text-left text-soft hover:bg-tint hover:text-ink">
          <Target className="size-3.5 shrink-0" aria-hidden="true" />
          <span className="truncate">
            <TargetLine target={design.target} />
          </span>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            className="z-30 w-80 rounded-md border border-rule bg-paper p-3"
          >
            <TargetFields store={store} target={design.target} />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}

function NameField({ store, name }: { store: EditorStore; name: string }) {
  const [draft, setDraft] = useState<{ text: string; fault: string | null } | null>(null);
  const fault = draft?.fault ?? null;
  return (
    <>
      <input
        aria-label="Name of the design"
        aria-invalid={fault !== null}
        aria-describedby={fault ? 'name-fault' : undefined}
        value={draft?.text ?? name}
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

function TargetLine({ target }: { target: Design['target'] }) {
  if (!target) return <>Set a target</>;
  return (
    <>
      to reach <Quantity value={signedVolts(target.volts, target.polarity)} unit="V" />
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

function TargetFields({ store, target }: { store: EditorStore; target: Design['target'] }) {
  const { edit } = store.getState();
  const set = (part: Partial<NonNullable<Design['target']>>) =>
    edit('$.target', {
      volts: 1000,
      amps: 0,
      ripplePeakToPeakFraction: null,
      polarity: 'positive',
      ...target,
      ...part,
    });
  return (
    <>
      <h2 className="mb-1 font-semibold">Target at the load</h2>
      <QuantityField
        label="Voltage, mean"
        unit="V"
        optional
        placeholder="no target"
        value={target?.volts ?? null}
        onValue={(value) => (value === null ? edit('$.target', null) : set({ volts: value }))}
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
          <div className="mt-1">
            <PolarityChoice value={target.polarity} onValue={(polarity) => set({ polarity })} />
          </div>
        </>
      ) : null}
    </>
  );
}
