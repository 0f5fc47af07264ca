'use client';

import { format } from 'date-fns';
import Printer from 'lucide-react/icons/printer';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { useAir } from '@/client/air-stores';
import { useBenchSettings } from '@/client/bench-store';
import { useDrawer } from '@/client/drawer-store';
import { pictureFile } from '@/client/design-file';
import { useMeter } from '@/client/meter-store';
import { downloadParts, downloadSheet } from '@/client/sheet-file';
import { dropTicks } from '@/client/ticks-store';
import { stepsUpOf } from '@/core/bench/steps-up';
import { insulationOf } from '@/core/build/insulation';
import { layoutOf } from '@/core/build/layout';
import { distancesFrom } from '@/core/build/near-node';
import { partsListOf } from '@/core/build/parts-list';
import { sheetOf } from '@/core/build/sheet';
import { wiringOf } from '@/core/build/wiring';
import type { Design } from '@/core/design/design-schema';
import type { Prediction } from '@/core/predict/prediction';
import { buttonStyle } from '@/ui/button';
import { Pictured } from '@/ui/picture-menu';
import { Quantity } from '@/ui/quantity';
import { useListening } from '@/ui/use-listening';
import type { TransientClient } from '@/worker/transient-client';
import { useDeadPlan } from '../dead/use-dead-plan';
import { PagePart } from '../page-part';
import type { EditorStore } from '../saving/editor-store';
import { BuildFields } from './build-fields';
import { LayoutPicture } from './layout-picture';
import { SheetBlocks } from './sheet-blocks';
import { useSheetTicks } from './use-ticks';
import { WiringPicture } from './wiring-picture';

type Props = {
  store: EditorStore;
  design: Design;
  electrical: Design;
  prediction: Prediction;
  client: TransientClient;
};

/** One document to build from: parts, insulation, layout, assembly, checks, steps up, and how it is made dead. */
export function BuildSheet(props: Props) {
  // What this browser keeps is not known where the page is made.
  const listening = useListening();
  return listening ? <Listening {...props} /> : null;
}

function Listening({ store, design, electrical, prediction, client }: Props) {
  const id = useStore(store, (state) => state.id);
  const revision = useStore(store, (state) => state.revision);
  const isSaved = useStore(store, (state) => state.save.kind === 'saved');
  const later = useDeferredValue(design);
  const { drawer, load } = useDrawer();
  // Without the drawer the list says nothing of stock; the drawer's own page says why it cannot be opened.
  useEffect(() => void load().catch(() => undefined), [load]);
  const { settings } = useBenchSettings();
  const { settings: meter } = useMeter();
  const { settings: air } = useAir();
  const plan = useDeadPlan(electrical, client);
  const dead = plan.kind === 'ready' ? plan.result : null;
  const insulation = useMemo(() => insulationOf(later, air), [later, air]);
  const layout = useMemo(() => (insulation ? layoutOf(later, insulation) : null), [later, insulation]);
  const stock = useMemo(
    () => drawer && { parts: drawer.parts, uses: drawer.uses.filter(({ designId }) => designId !== id) },
    [drawer, id],
  );
  const wiring = useMemo(() => wiringOf(later), [later]);
  const parts = useMemo(() => partsListOf(later, stock), [later, stock]);
  const steps = useMemo(() => stepsUpOf(electrical, settings.fractions, meter), [electrical, settings, meter]);
  const sections = useMemo(
    () => sheetOf({ design: later, prediction, insulation, layout, hasWiring: wiring !== null, parts, steps, dead }),
    [later, prediction, insulation, layout, wiring, parts, steps, dead],
  );
  const about = `Revision ${revision}${isSaved ? '' : ', with changes that are not saved'}, ${format(new Date(), 'd MMM yyyy')}`;
  const ticks = useSheetTicks(id, revision);
  const [selected, setSelected] = useState<string | null>(null);
  return (
    <section aria-labelledby="build-title" className="mx-auto w-full max-w-5xl px-4 py-4 sm:px-6">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div>
          <h2 id="build-title" className="text-base font-semibold">
            Build sheet
          </h2>
          <p className="text-[13px] text-soft" data-build="about">
            {about}
          </p>
        </div>
        <div className="no-print flex flex-wrap gap-1">
          <button type="button" className={buttonStyle('quiet')} onClick={() => downloadParts(design.name, parts)}>
            Parts, CSV
          </button>
          <button
            type="button"
            className={buttonStyle('quiet')}
            onClick={() => downloadSheet(design.name, about, sections)}
          >
            Sheet, Markdown
          </button>
          <button type="button" className={buttonStyle('quiet')} onClick={() => window.print()}>
            <Printer className="size-4" aria-hidden="true" /> Print
          </button>
        </div>
      </div>
      <Ticked ticks={ticks} revision={revision} onDrop={() => dropTicks(id)} />
      <BuildFields store={store} design={design} />
      {sections.map((section) => (
        <PagePart key={section.id} title={section.title}>
          <SheetBlocks
            section={section}
            doneAt={ticks.doneAt}
            onTick={ticks.onTick}
            pictures={{
              wiring: wiring ? (
                <Pictured
                  name="Wiring"
                  title={`${design.name}, wiring`}
                  shown="[data-wiring]"
                  onPicture={pictureFile(design.name, 'wiring')}
                >
                  <WiringPicture wiring={wiring} />
                </Pictured>
              ) : null,
              layout:
                layout && insulation ? (
                  <>
                    <Pictured
                      name="Layout"
                      title={`${design.name}, layout`}
                      shown="[data-layout=screen]"
                      onPicture={pictureFile(design.name, 'layout')}
                    >
                      <LayoutPicture
                        layout={layout}
                        insulation={insulation}
                        selected={selected}
                        onSelect={(node) => setSelected(node === selected ? null : node)}
                      />
                    </Pictured>
                    {selected && insulation.potentials.network.nodes.some((node) => node.id === selected) ? (
                      <table
                        className="no-print mt-1 w-full max-w-xl text-left text-[13px]"
                        aria-label={`Distances of ${selected}`}
                      >
                        <thead className="text-soft">
                          <tr className="border-b border-rule">
                            <th className="py-1 pr-3 font-normal">From {selected} to</th>
                            <th className="py-1 pr-3 text-right font-normal">Distance</th>
                            <th className="py-1 pr-3 text-right font-normal">Needed</th>
                            <th className="py-1 text-right font-normal">Between, peak</th>
                          </tr>
                        </thead>
                        <tbody>
                          {distancesFrom(layout, insulation, later.build.held, selected).map(
                            ({ node, metres, neededMetres, volts }) => (
                              <tr key={node} className="border-b border-rule">
                                <td className="py-0.5 pr-3">{node}</td>
                                <td className="py-0.5 pr-3 text-right">
                                  <Quantity value={Math.max(0, metres)} unit="m" />
                                </td>
                                <td className="py-0.5 pr-3 text-right">
                                  <Quantity value={neededMetres} unit="m" />
                                </td>
                                <td className="py-0.5 text-right">
                                  <Quantity value={volts} unit="V" />
                                </td>
                              </tr>
                            ),
                          )}
                        </tbody>
                      </table>
                    ) : (
                      <p className="no-print text-[13px] text-soft">Choose a joint to see its distances.</p>
                    )}
                  </>
                ) : null,
            }}
          />
        </PagePart>
      ))}
    </section>
  );
}

/** What is to be said of the steps done: where they are kept, and those of an earlier revision. */
function Ticked({
  ticks: { earlier, isWaiting, refused, takeOver },
  revision,
  onDrop,
}: {
  ticks: ReturnType<typeof useSheetTicks>;
  revision: number;
  onDrop: () => void;
}) {
  if (!earlier && !isWaiting) return null;
  return (
    <div className="no-print mt-2 grid gap-1 text-[13px]" data-build="ticks">
      {refused ? (
        <p role="alert" className="text-over">
          Steps done are not kept: {refused}.{' '}
          <button type="button" className="underline" onClick={onDrop}>
            Give them up
          </button>
        </p>
      ) : isWaiting ? (
        <p className="text-soft">Steps done are kept in this browser, not sent yet.</p>
      ) : null}
      {earlier ? (
        <p className="text-soft">
          Of revision {earlier.revision}{' '}
          {earlier.steps.length === 1 ? 'one step is done' : `${earlier.steps.length} steps are done`} that{' '}
          {earlier.steps.length === 1 ? 'is' : 'are'} not done here.{' '}
          <button type="button" className="text-copper underline" onClick={() => takeOver(earlier.steps)}>
            Done in revision {revision} as well
          </button>
        </p>
      ) : null}
    </div>
  );
}
