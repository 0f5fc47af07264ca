'use client';

import dynamic from 'next/dynamic';
import { patiently } from '@/client/patiently';
import { memo, useCallback, useDeferredValue, useMemo, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { beginDraft } from '@/client/bench-store';
import type { Fault } from '@/core/bench/faults/fault';
import type { DraftKind } from '@/core/bench/draft';
import { largestGain } from '@/core/choose/rank-changes';
import type { StoredDesign } from '@/core/design/design-messages';
import { predict } from '@/core/predict/predict';
import type { Prediction } from '@/core/predict/prediction';
import { asFaulty } from '@/core/bench/faults/at-full-drive';
import { asSettled } from '@/core/transient/comparison';
import { buttonStyle } from '@/ui/button';
import { FaultyEntries, OfGoodEntries } from '@/ui/faulty-entries';
import { TopBar } from '@/ui/top-bar';
import { UndoButtons } from '@/ui/undo-buttons';
import { Chain } from './chain/chain';
import { linkAt, type Link } from './chain/links';
import { ExportMenu } from './export-menu';
import { Heading } from './heading';
import { Notes } from './notes';
import { PagesOfDesign } from './pages-of-design';
import { PaneSplitter } from './pane-splitter';
import { Picture } from './picture';
import { ConflictDialog } from './saving/conflict-dialog';
import { createEditorStore, type EditorStore } from './saving/editor-store';
import { HistoryDialog } from './saving/history-dialog';
import { LeftUnsaved } from './saving/left-unsaved';
import { FailedSave, SaveNotice } from './saving/save-notice';
import { useAutosave } from './saving/use-autosave';
import { Bench } from './bench/bench';
import { MakeItDead } from './dead/make-it-dead';
import type { BenchPage } from './transformer-bench/pages';
import { TransformerBench } from './transformer-bench/transformer-bench';
import { useBefore } from './use-before';
import { useDesignCommands } from './use-design-commands';
import { useElectrical } from './use-electrical';
import { useMotion } from './use-motion';
import { useOptimum } from './use-optimum';
import type { Place } from './places';
import { usePlace } from './use-place';
import { usePaneSizes } from './use-pane-sizes';
import { useRankedChanges } from './use-ranked-changes';
import { usePartChoice } from './use-part-choice';
import { useWhatIf } from './use-what-if';
import { useTransient, WAITING } from './use-transient';
import { useWarmPrediction } from './use-warm-prediction';
import { ChangesDialog } from './verdict/changes-dialog';
import { Verdict, VerdictStrip } from './verdict/verdict';

/** Charts need a browser to be drawn in. */
const Charts = dynamic(() => patiently(() => import('./charts/charts')).then((module) => module.Charts), {
  ssr: false,
});

/** Of this page alone. */
const BuildSheet = dynamic(
  () => patiently(() => import('./build-sheet/build-sheet')).then((module) => module.BuildSheet),
  { ssr: false },
);

type Props = {
  stored: StoredDesign;
  /** Of the design as it is stored. */
  opened: Prediction;
};

/** One design: the chain, the Climb, the verdict and the charts, live on every keystroke. */
export function DesignScreen(props: Props) {
  return (
    <FaultyEntries>
      <OneDesign {...props} />
    </FaultyEntries>
  );
}

function OneDesign({ stored, opened }: Props) {
  const [store] = useState(() => createEditorStore(stored));
  const { saveNow, isKept } = useAutosave(store);
  const design = useStore(store, (state) => state.design);
  const electrical = useElectrical(design);
  // Figures follow the keystroke at once; picture and curves may follow a frame later, and skip states typed over.
  const laterDesign = useDeferredValue(electrical);
  const { timeDomain, client } = useTransient(laterDesign);
  const optimum = useOptimum(opened.optimumStages, laterDesign, client);
  const prediction = useMemo(
    () =>
      electrical === stored.design && optimum === opened.optimumStages ? opened : predict(electrical, { optimum }),
    [stored, opened, electrical, optimum],
  );
  useWarmPrediction(stored.design);
  const laterPrediction = useDeferredValue(prediction);
  const ranked = useRankedChanges(laterDesign, client);
  const helps = ranked.changes && largestGain(ranked.changes, laterPrediction.output.meanVolts);
  const [link, setLink] = useState<Link | ''>('ladder');
  const [dialog, setDialog] = useState<'changes' | 'history' | null>(null);
  const closeDialog = useCallback(() => setDialog(null), []);
  const openChanges = useCallback(() => setDialog('changes'), []);
  const choice = usePartChoice();
  const { place, go, turn } = usePlace(stored.id);
  const openDead = useCallback(() => go({ kind: 'dead', atBench: false }), [go]);
  const openBench = useCallback((page: BenchPage) => go({ kind: 'transformer', page }), [go]);

  const recordPart = useCallback(
    (at: string, kind: DraftKind) => {
      beginDraft(stored.id, at, kind);
      go({ kind: 'bench' });
    },
    [stored.id, go],
  );

  const { sizes } = usePaneSizes();
  const paneStyle = Object.fromEntries(Object.entries(sizes).map(([pane, size]) => [`--${pane}`, `${size}px`]));
  const transient = timeDomain.kind === 'ready' ? timeDomain.run.transient : null;
  const settled = useMemo(
    () => (transient ? asSettled(laterPrediction, transient) : null),
    [laterPrediction, transient],
  );
  const { ghost, remember } = useBefore(laterDesign, { closedForm: laterPrediction, settled });
  const whatIf = useWhatIf(laterDesign, client);
  const { put } = whatIf;
  const { choosePart } = choice;
  const putIn = useCallback(
    (fault: Fault) => {
      put(fault);
      choosePart(fault.place);
      go({ kind: 'design' });
    },
    [put, choosePart, go],
  );
  const faulty = whatIf.shown?.run ?? null;
  const onEndWhatIf = whatIf.shown?.onEnd ?? null;
  const pictured = useMemo(
    () => ({
      timeDomain: faulty ? ({ kind: 'ready', run: faulty, idle: null } as const) : timeDomain,
      transient: faulty ? faulty.transient : transient,
      settled: faulty ? asFaulty(laterPrediction, faulty.transient) : settled,
      ghost: faulty?.sound
        ? {
            prediction: asSettled(laterPrediction, faulty.sound.transient),
            onHide: onEndWhatIf,
            without: 'the fault' as const,
          }
        : ghost,
    }),
    [faulty, timeDomain, transient, settled, laterPrediction, ghost, onEndWhatIf],
  );
  const motion = useMotion(laterPrediction, pictured.timeDomain, choice.tab);

  const apply = useCallback(
    (path: string, value: unknown) => {
      const fault = store.getState().edit(path, value);
      if (fault) toast.error(fault);
      else remember(store.getState().design);
    },
    [store, remember],
  );
  const goTo = useCallback(
    (path: string) => {
      const wanted = linkAt(path, store.getState().design);
      if (!wanted) return;
      setLink(wanted);
      requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-link=${wanted}]`)?.focus());
    },
    [store],
  );

  useDesignCommands({
    store,
    id: stored.id,
    apply,
    setLink,
    setTab: choice.setTab,
    setDialog,
    go,
    player: motion.player,
  });

  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <Bar store={store} />
      <FailedSave store={store} isKept={isKept} onRetry={() => void saveNow()} />
      <LeftUnsaved store={store} />
      {place.kind === 'transformer' ? (
        <PageBeside store={store} at={place.kind} onGo={go}>
          <TransformerBench
            store={store}
            design={design}
            prediction={prediction}
            page={place.page}
            onPage={(page) => turn({ kind: 'transformer', page })}
          />
        </PageBeside>
      ) : place.kind === 'build-sheet' ? (
        <PageBeside store={store} at={place.kind} onGo={go}>
          <BuildSheet
            store={store}
            design={design}
            electrical={electrical}
            prediction={laterPrediction}
            client={client}
          />
        </PageBeside>
      ) : place.kind === 'bench' ? (
        <PageBeside store={store} at={place.kind} onGo={go}>
          <Bench store={store} design={electrical} client={client} onPutIn={putIn} />
        </PageBeside>
      ) : place.kind === 'dead' ? (
        <PageBeside store={store} at={place.kind} onGo={go}>
          <MakeItDead
            store={store}
            design={electrical}
            client={client}
            atBench={place.atBench}
            onBench={() => go({ kind: 'dead', atBench: true })}
            onPlan={() => turn({ kind: 'dead', atBench: false })}
          />
        </PageBeside>
      ) : (
        <main
          className="grid min-h-0 flex-1 lg:grid-cols-[min(var(--chain),28vw)_1px_minmax(0,1fr)_1px_min(var(--verdict),32vw)]"
          style={paneStyle}
        >
          <aside aria-label="Chain" className="pane order-2 min-h-0 overflow-y-auto px-4 py-1.5 lg:order-none">
            <Chain
              store={store}
              prediction={prediction}
              open={link}
              onOpen={setLink}
              onBench={openBench}
              onRecord={recordPart}
            />
            <Notes store={store} />
          </aside>
          <PaneSplitter pane="chain" at="left" label="Width of the chain" />
          <div className="order-1 flex min-h-0 min-w-0 flex-col lg:order-none">
            <div className="pane flex items-start justify-between gap-3 px-4 pt-2.5">
              <Heading store={store}>
                <div className="no-print flex max-w-full flex-wrap justify-end gap-x-0.5 pt-0.5 text-[13.5px] [&_button]:px-1.5">
                  <PagesOfDesign at={place.kind} onGo={go} />
                  <button type="button" className={buttonStyle('quiet')} onClick={() => setDialog('history')}>
                    History
                  </button>
                  <ExportMenu
                    store={store}
                    waveforms={
                      electrical === laterDesign && timeDomain.kind === 'ready' ? timeDomain.run.waveforms : null
                    }
                  />
                </div>
              </Heading>
            </div>
            <OfGoodEntries className="pane flex min-h-0 flex-1 flex-col">
              <Picture
                design={laterDesign}
                prediction={laterPrediction}
                settled={pictured.settled}
                transient={pictured.transient}
                choice={choice}
                motion={motion}
                ghost={pictured.ghost}
                onRecord={recordPart}
                whatIf={whatIf}
              />
            </OfGoodEntries>
            <PaneSplitter pane="charts" at="below" label="Height of the charts" />
            <OfGoodEntries className="pane h-[270px] shrink-0 border-t border-rule sm:h-[230px] lg:h-[min(var(--charts),60vh)] lg:border-t-0">
              <Charts
                design={laterDesign}
                prediction={laterPrediction}
                timeDomain={timeDomain}
                waveforms={pictured.timeDomain}
                withoutFault={faulty?.sound?.waveforms ?? null}
                client={client}
                traces={choice.traces}
                onTraces={choice.setTraces}
                tab={choice.tab}
                onTab={choice.setTab}
                onEdit={store.getState().edit}
                player={motion.player}
                onMoments={motion.onMoments}
              />
            </OfGoodEntries>
          </div>
          <PaneSplitter pane="verdict" at="right" label="Width of the verdict" />
          <div className="pane order-3 min-h-0 overflow-y-auto lg:order-none">
            <Verdict
              design={design}
              prediction={prediction}
              helps={helps}
              timeDomain={electrical === laterDesign ? timeDomain : WAITING}
              onApply={apply}
              onChanges={openChanges}
              onDead={openDead}
              chooseHref={`/choose?design=${stored.id}`}
              onGo={goTo}
            />
          </div>
          <VerdictStrip
            design={design}
            prediction={prediction}
            timeDomain={electrical === laterDesign ? timeDomain : WAITING}
          />
        </main>
      )}
      <ConflictDialog store={store} saveNow={saveNow} />
      {dialog === 'changes' ? <ChangesDialog ranked={ranked} onApply={apply} onClose={closeDialog} /> : null}
      {dialog === 'history' ? (
        <HistoryDialog
          id={stored.id}
          present={design}
          onClose={closeDialog}
          onRestore={(revision) => {
            store.getState().replace(revision.design);
            closeDialog();
            toast(`Revision ${revision.revision} is back on screen.`);
          }}
        />
      ) : null}
    </div>
  );
}

/** A page of the design other than its chain and picture. */
function PageBeside({
  store,
  at,
  onGo,
  children,
}: {
  store: EditorStore;
  at: Place['kind'];
  onGo: (place: Place) => void;
  children: ReactNode;
}) {
  return (
    <main className="min-h-0 flex-1 overflow-y-auto">
      <div className="mx-auto flex w-full max-w-5xl items-start justify-between gap-3 px-4 pt-2.5 sm:px-6 print:px-0">
        <Heading store={store}>
          <div className="no-print flex flex-wrap justify-end gap-0.5">
            <PagesOfDesign at={at} onGo={onGo} />
          </div>
        </Heading>
      </div>
      {children}
    </main>
  );
}

const Bar = memo(function Bar({ store }: { store: EditorStore }) {
  return (
    <TopBar here="design">
      <SaveNotice store={store} />
      <Undoing store={store} />
    </TopBar>
  );
});

function Undoing({ store }: { store: EditorStore }) {
  const canUndo = useStore(store.temporal, (state) => state.pastStates.length > 0);
  const canRedo = useStore(store.temporal, (state) => state.futureStates.length > 0);
  return <UndoButtons canUndo={canUndo} canRedo={canRedo} onUndo={store.undo} onRedo={store.redo} />;
}
