'use client';

import { format } from 'date-fns';
import Printer from 'lucide-react/icons/printer';
import { useStore } from 'zustand';
import { pictureFile } from '@/client/design-file';
import { downloadParts, downloadSheet } from '@/client/sheet-file';
import { dropTicks } from '@/client/ticks-store';
import type { Design } from '@/core/design/design-schema';
import type { Prediction } from '@/core/predict/prediction';
import { buttonStyle } from '@/ui/button';
import { Pictured } from '@/ui/picture-menu';
import { useListening } from '@/ui/use-listening';
import type { TransientClient } from '@/worker/transient-client';
import { PagePart } from '../page-part';
import { PotsDrawing } from '../transformer-bench/pots-drawing';
import type { EditorStore } from '../saving/editor-store';
import { BuildFields } from './build-fields';
import { LayoutPart } from './layout-part';
import { SheetBlocks } from './sheet-blocks';
import { useSheet } from './use-sheet';
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

function Listening({ store, ...of }: Props) {
  const { design } = of;
  const id = useStore(store, (state) => state.id);
  const revision = useStore(store, (state) => state.revision);
  const isSaved = useStore(store, (state) => state.save.kind === 'saved');
  const { sheet, failed } = useSheet({ id, ...of });
  const about = `Revision ${revision}${isSaved ? '' : ', with changes that are not saved'}, ${format(new Date(), 'd MMM yyyy')}`;
  const ticks = useSheetTicks(id, revision);
  return (
    <section aria-labelledby="build-title" className="mx-auto w-full max-w-5xl px-4 py-4 sm:px-6 print:px-0">
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
          <button
            type="button"
            className={buttonStyle('quiet')}
            disabled={!sheet}
            onClick={() => sheet && downloadParts(design.name, sheet.parts)}
          >
            Parts, CSV
          </button>
          <button
            type="button"
            className={buttonStyle('quiet')}
            disabled={!sheet}
            onClick={() => sheet && downloadSheet(design.name, about, sheet.sections)}
          >
            Sheet, Markdown
          </button>
          <button type="button" className={buttonStyle('quiet')} disabled={!sheet} onClick={() => window.print()}>
            <Printer className="size-4" aria-hidden="true" /> Print
          </button>
        </div>
      </div>
      <Ticked ticks={ticks} revision={revision} onDrop={() => dropTicks(id)} />
      <BuildFields store={store} design={design} />
      {failed === null ? null : <p className="mt-4 text-[13.5px] text-over">The layout could not be found: {failed}</p>}
      {sheet ? null : (
        <p role="status" className="mt-6 text-[13.5px] text-soft">
          Finding the least spacing at which every distance is kept…
        </p>
      )}
      {sheet?.sections.map((section) => (
        <PagePart key={section.id} title={section.title} holdsTogether={section.id === 'wiring'}>
          <SheetBlocks
            section={section}
            doneAt={ticks.doneAt}
            onTick={ticks.onTick}
            pictures={{
              winding: sheet.wound ? (
                <div className="mt-2 max-w-xl">
                  <PotsDrawing {...sheet.wound} />
                </div>
              ) : null,
              wiring: sheet.wiring ? (
                <Pictured
                  name="Wiring"
                  title={`${design.name}, wiring`}
                  shown="[data-wiring]"
                  onPicture={pictureFile(design.name, 'wiring')}
                >
                  <WiringPicture wiring={sheet.wiring} />
                </Pictured>
              ) : null,
              layout:
                sheet.layout && sheet.insulation ? (
                  <LayoutPart
                    design={sheet.design}
                    insulation={sheet.insulation}
                    layout={sheet.layout}
                    onPitch={(metres) => store.getState().edit('$.build.pitchMetres', metres)}
                  />
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
