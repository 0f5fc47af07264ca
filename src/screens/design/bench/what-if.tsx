'use client';

import { useMemo, useState } from 'react';
import { faultKind } from '@/core/bench/faults/faults';
import { soundBenchOf } from '@/core/bench/faults/read-through';
import { faultChoice, ifFaulty } from '@/core/bench/faults/what-if';
import type { LowSource } from '@/core/bench/low-source';
import type { ProvingTest } from '@/core/bench/proving';
import type { Design } from '@/core/design/design-schema';
import type { Meter } from '@/core/drive/meter-sense';
import { sentence } from '@/core/quantity/sentence';
import { FaultPick } from '@/ui/fault-pick';
import { Quantity } from '@/ui/quantity';

/** What the meter would show of the same test with one fault in the ladder, beside what it shows where nothing is wrong. */
export function WhatIf({
  design,
  source,
  meter,
  test,
}: {
  design: Design;
  source: LowSource;
  meter: Meter;
  test: ProvingTest;
}) {
  const sound = useMemo(() => soundBenchOf(design, source, meter, test), [design, source, meter, test]);
  const [wanted, setWanted] = useState<{ place: string; kind: string } | null>(null);
  const choice = useMemo(() => sound && faultChoice(sound, wanted), [sound, wanted]);
  const fault = choice?.fault;
  const nodes = useMemo(() => test.taps.flatMap(({ node, isOverMeter }) => (isOverMeter ? [] : [node])), [test]);
  const shown = useMemo(() => sound && fault && ifFaulty(sound, fault, nodes), [sound, fault, nodes]);
  if (!sound || !choice || !fault || !shown) return null;
  return (
    <div className="max-w-2xl">
      <FaultPick places={choice.places} kinds={choice.kinds} place={fault.place} kind={fault.kind} onPick={setWanted} />
      <p className="mt-1 text-[13.5px]">{shown.why}</p>
      <table className="mt-1 w-full text-left text-[13px]" aria-label="With the fault">
        <thead className="text-soft">
          <tr className="border-b border-rule">
            <th className="py-1 pr-3 font-normal">Read at</th>
            <th className="py-1 pr-3 text-right font-normal">Sound</th>
            <th className="py-1 text-right font-normal">With the fault</th>
          </tr>
        </thead>
        <tbody>
          {shown.source ? <Row name="Source" {...shown.source} /> : null}
          {shown.taps.map(({ node, sound: without, faulty }) => (
            <Row key={node} name={node} sound={without} faulty={faulty} />
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-[13px] text-soft">
        Settled, through this meter, by the charge balance. {sentence(faultKind(fault.kind).shownBy)} shows it best.
      </p>
    </div>
  );
}

function Row({ name, sound, faulty }: { name: string; sound: number | null; faulty: number | null }) {
  return (
    <tr data-if={name} className="border-b border-rule align-baseline">
      <th scope="row" className="py-1 pr-3 font-normal">
        {name}
      </th>
      <td className="py-1 pr-3 text-right">{sound === null ? '–' : <Quantity value={sound} unit="V" />}</td>
      <td className="py-1 text-right text-[14.5px] font-semibold">
        {faulty === null ? '–' : <Quantity value={faulty} unit="V" />}
      </td>
    </tr>
  );
}
