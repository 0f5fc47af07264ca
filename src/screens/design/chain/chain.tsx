'use client';

import { Accordion } from 'radix-ui';
import type { ReactNode } from 'react';
import { useStore } from 'zustand';
import type { DraftKind } from '@/core/bench/draft';
import { DRIVER_KINDS } from '@/core/drive/driver-kinds';
import { SUPPLY_NAMES } from '@/core/drive/supply';
import { LOAD_KINDS } from '@/core/load/load-kinds';
import { TOPOLOGY_KINDS } from '@/core/topology/topologies';
import type { Prediction } from '@/core/predict/prediction';
import type { EditorStore } from '../saving/editor-store';
import { DividerFields, DividerLine } from './divider-card';
import { LadderFields, LadderLine } from './ladder-card';
import { LINKS, type Link } from './links';
import { FarEndFields, FarEndLine } from './far-end-card';
import { OutputFields, OutputLine } from './output-card';
import { DriverFields, DriverLine, SupplyFields, SupplyLine, TransformerFields, TransformerLine } from './source-cards';
import type { BenchPage } from '../transformer-bench/pages';

/** By the number of smoothing sections. */
const OUTPUT_KINDS = ['series resistor, bleeder', 'a smoothing section', 'smoothing sections'] as const;

/** What of a link is read at the bench. */
const READ_THERE: Partial<Record<Link, { kind: DraftKind; words: string }>> = {
  supply: { kind: 'supply-current', words: 'Record its current without load' },
  driver: { kind: 'frequency', words: 'Record its frequency' },
  output: { kind: 'ripple', words: 'Record its ripple' },
  farEnd: { kind: 'loaded', words: 'Record the output at a load current' },
};

/** The chain: one card a link in the order of energy, one of them open. */
export function Chain({
  store,
  prediction,
  open,
  onOpen,
  onBench,
  onRecord,
}: {
  store: EditorStore;
  prediction: Prediction;
  open: Link | '';
  onOpen: (link: Link | '') => void;
  onBench: (page: BenchPage) => void;
  /** Goes to the bench, to record what was read at a place. */
  onRecord: (at: string, kind: DraftKind) => void;
}) {
  const design = useStore(store, (state) => state.design);
  const editing = { store, design, prediction };
  const recording = (link: Link) => {
    const there = READ_THERE[link];
    return there ? (
      <button
        type="button"
        className="mt-1 block text-[13px] text-copper hover:underline"
        onClick={() => onRecord(there.kind === 'ripple' ? prediction.terminals.output : '', there.kind)}
      >
        {there.words}…
      </button>
    ) : null;
  };
  return (
    <Accordion.Root
      type="single"
      collapsible
      value={open}
      onValueChange={(link) => onOpen(link as Link | '')}
      className="relative before:absolute before:inset-y-0 before:left-[5px] before:w-px before:bg-copper/60"
    >
      {design.supply ? (
        <Card
          link="supply"
          kind={SUPPLY_NAMES[design.supply.kind].toLowerCase()}
          line={<SupplyLine {...editing} />}
          open={open}
        >
          <SupplyFields {...editing} />
          {recording('supply')}
        </Card>
      ) : null}
      <Card
        link="driver"
        kind={DRIVER_KINDS[design.driver.kind].name.toLowerCase()}
        line={<DriverLine {...editing} />}
        open={open}
      >
        <DriverFields {...editing} onBench={onBench} />
        {recording('driver')}
      </Card>
      {design.transformer ? (
        <Card
          link="transformer"
          kind={`${design.transformer.primaryTurns} to ${design.transformer.secondaryTurns} turns`}
          line={<TransformerLine {...editing} />}
          open={open}
        >
          <TransformerFields {...editing} onBench={onBench} />
        </Card>
      ) : null}
      <Card
        link="ladder"
        kind={TOPOLOGY_KINDS[design.ladder.topology].name.toLowerCase()}
        line={<LadderLine {...editing} />}
        open={open}
      >
        <LadderFields {...editing} />
      </Card>
      <Card
        link="output"
        kind={OUTPUT_KINDS[Math.min(2, design.output.smoothing.length)]}
        line={<OutputLine {...editing} />}
        open={open}
      >
        <OutputFields {...editing} />
        {recording('output')}
      </Card>
      <Card
        link="divider"
        kind={design.output.divider ? 'measuring' : 'none'}
        line={<DividerLine {...editing} />}
        open={open}
      >
        <DividerFields {...editing} />
      </Card>
      <Card link="farEnd" kind={LOAD_KINDS[design.load.kind].name} line={<FarEndLine {...editing} />} open={open}>
        <FarEndFields {...editing} />
        {recording('farEnd')}
      </Card>
    </Accordion.Root>
  );
}

function Card({
  link,
  kind,
  line,
  open,
  children,
}: {
  link: Link;
  kind: string;
  line: ReactNode;
  open: Link | '';
  children: ReactNode;
}) {
  return (
    <Accordion.Item value={link} className="relative pl-5">
      <span
        aria-hidden="true"
        className={`absolute top-[15px] left-0 size-[11px] rounded-full border-[1.5px] border-copper ${open === link ? 'bg-copper' : 'bg-paper'}`}
      />
      <div className="border-b border-rule py-2.5">
        <Accordion.Header>
          <Accordion.Trigger className="block w-full rounded text-left" data-link={link}>
            <span className="flex items-baseline justify-between gap-2">
              <span className="font-semibold">{LINKS[link].name}</span>
              <span className="text-[12.5px] text-soft">{kind}</span>
            </span>
            <span className="block text-[13px] text-soft">{line}</span>
          </Accordion.Trigger>
        </Accordion.Header>
        <Accordion.Content className="pt-2">{children}</Accordion.Content>
      </div>
    </Accordion.Item>
  );
}
