'use client';

import Redo from 'lucide-react/icons/redo-2';
import Undo from 'lucide-react/icons/undo-2';
import dynamic from 'next/dynamic';
import { useRouter, useSearchParams } from 'next/navigation';
import { useCallback, useDeferredValue, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { createDesign } from '@/client/designs-api';
import type { StoredDesign } from '@/core/design/design-messages';
import { downloadDesign } from '@/client/design-file';
import { TOPOLOGY_KINDS } from '@/core/topology/topologies';
import { asSettled } from '@/core/transient/comparison';
import { predict } from '@/core/predict/predict';
import { whatHelpsMost } from '@/core/predict/what-helps';
import { buttonStyle } from '@/ui/button';
import { useCommands, type ScreenCommand } from '@/ui/commands';
import { TopBar } from '@/ui/top-bar';
import { Chain, linksOf, type Link } from './chain/chain';
import { Climb } from './climb/climb';
import { ChangesDialog } from './verdict/changes-dialog';
import { ConflictDialog } from './saving/conflict-dialog';
import { createEditorStore } from './saving/editor-store';
import { Heading } from './heading';
import { HistoryDialog } from './saving/history-dialog';
import { Notes } from './notes';
import { PartPanel } from './climb/part-panel';
import { SaveNotice } from './saving/save-notice';
import { benchPage, TransformerBench, type BenchPage } from './transformer-bench/transformer-bench';
import { useElectrical } from './use-electrical';
import { useTransient, WAITING } from './use-transient';
import { useAutosave } from './saving/use-autosave';
import { Verdict, VerdictStrip } from './verdict/verdict';

const NO_TRACES: string[] = [];

/** Charts need a browser to be drawn in. */
const Charts = dynamic(() => import('./charts/charts').then((module) => module.Charts), { ssr: false });

/** One design: the chain, the Climb, the verdict and the charts, live on every keystroke. */
export function DesignScreen({ stored }: { stored: StoredDesign }) {
  const [store] = useState(() => createEditorStore(stored));
  const router = useRouter();
  const saveNow = useAutosave(store);
  const design = useStore(store, (state) => state.design);
  const electrical = useElectrical(design);
  const prediction = useMemo(() => predict(electrical), [electrical]);
  // Figures follow the keystroke at once; picture and curves may follow a frame later, and skip states typed over.
  const laterDesign = useDeferredValue(electrical);
  const laterPrediction = useDeferredValue(prediction);
  const helps = useMemo(() => whatHelpsMost(laterDesign), [laterDesign]);
  const canUndo = useStore(store.temporal, (state) => state.pastStates.length > 0);
  const canRedo = useStore(store.temporal, (state) => state.futureStates.length > 0);
  const [link, setLink] = useState<Link | ''>('ladder');
  const [part, setPart] = useState<string | null>(null);
  const [tab, setTab] = useState('load-line');
  const [traces, setTraces] = useState<string[]>([]);
  const { timeDomain, client } = useTransient(laterDesign);
  const climbed = useMemo(
    () => (timeDomain.kind === 'ready' ? asSettled(laterPrediction, timeDomain.run.transient) : laterPrediction),
    [laterPrediction, timeDomain],
  );
  const [history, setHistory] = useState(false);
  const [changes, setChanges] = useState(false);
  const openChanges = useCallback(() => setChanges(true), []);
  const { bench, openBench, turnBench, closeBench } = useBenchInAddress();

  const apply = useCallback(
    (path: string, value: unknown) => {
      const fault = store.getState().edit(path, value);
      if (fault) toast.error(fault);
    },
    [store],
  );

  /** Puts a node or part into the waveforms, or takes it out. */
  const trace = useCallback(
    (id: string) => setTraces((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id])),
    [],
  );
  const choosePart = useCallback(
    (id: string | null) => {
      setPart(id);
      if (id !== null && tab === 'waveforms') trace(id);
    },
    [tab, trace],
  );

  const goTo = useCallback(
    (path: string) => {
      const wanted = linksOf(store.getState().design).find((name) => path.startsWith(`$.${name}`));
      if (!wanted) return;
      setLink(wanted);
      requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-link=${wanted}]`)?.focus());
    },
    [store],
  );

  const commands = useMemo<ScreenCommand[]>(() => {
    const stepStages = (by: number) => {
      const { stages, topology } = store.getState().design.ladder;
      const whole = TOPOLOGY_KINDS[topology].stages === 'whole';
      if (TOPOLOGY_KINDS[topology].stages === 'fixed') toast('This topology has one form: it has no stages to add.');
      else apply('$.ladder.stages', stages + (whole ? Math.sign(by) : by));
    };
    const openLink = (by: number) =>
      setLink((now) => {
        const links = linksOf(store.getState().design);
        const at = now === '' ? (by > 0 ? -1 : links.length) : links.indexOf(now);
        return links[(at + by + links.length) % links.length];
      });
    const duplicate = async () => {
      try {
        const { design: present } = store.getState();
        const copy = await createDesign({ ...present, name: `${present.name.slice(0, 110)}, copy` });
        router.push(`/designs/${copy.id}`);
      } catch {
        toast.error('The copy could not be made: the server cannot be reached.');
      }
    };
    return [
      { name: 'Undo', keys: 'mod+z', run: store.undo },
      { name: 'Redo', keys: 'mod+shift+z,mod+y', run: store.redo },
      { name: 'One stage more', keys: 'pageup', run: () => stepStages(1) },
      { name: 'One stage fewer', keys: 'pagedown', run: () => stepStages(-1) },
      { name: 'Half a stage more', keys: 'shift+pageup', run: () => stepStages(0.5) },
      { name: 'Half a stage fewer', keys: 'shift+pagedown', run: () => stepStages(-0.5) },
      { name: 'Next link of the chain', keys: 'j', run: () => openLink(1) },
      { name: 'Previous link of the chain', keys: 'u', run: () => openLink(-1) },
      { name: 'Load line', keys: 'l', run: () => setTab('load-line') },
      { name: 'Stages chart', keys: 's', run: () => setTab('stages') },
      { name: 'Waveforms', keys: 'w', run: () => setTab('waveforms') },
      { name: 'Charge-up', keys: 'c', run: () => setTab('charge-up') },
      { name: 'Tolerance', keys: 't', run: () => setTab('tolerance') },
      { name: 'Discharge', keys: 'd', run: () => setTab('discharge') },
      { name: 'What each change would do', keys: 'q', run: () => setChanges(true) },
      {
        name: 'Choose what to build',
        keys: 'f',
        run: () => router.push(`/choose?design=${stored.id}`),
      },
      { name: 'Transformer bench', keys: 'b', run: () => openBench('ratio') },
      { name: 'Pin finder', run: () => openBench('pins') },
      { name: 'History', keys: 'h', run: () => setHistory(true) },
      { name: 'Export as a file', keys: 'e', run: () => downloadDesign(store.getState().design) },
      { name: 'Duplicate this design', run: () => void duplicate() },
      { name: 'Back to the shelf', run: () => router.push('/') },
      { name: 'Print', run: () => window.print() },
    ];
  }, [apply, openBench, router, store, stored.id]);
  useCommands(commands);

  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <TopBar here="design">
        <SaveNotice store={store} onRetry={() => void saveNow()} />
        <span className="flex">
          <button
            type="button"
            className={buttonStyle('quiet')}
            disabled={!canUndo}
            onClick={store.undo}
            aria-label="Undo"
          >
            <Undo className="size-4" aria-hidden="true" />
          </button>
          <button
            type="button"
            className={buttonStyle('quiet')}
            disabled={!canRedo}
            onClick={store.redo}
            aria-label="Redo"
          >
            <Redo className="size-4" aria-hidden="true" />
          </button>
        </span>
      </TopBar>
      <main className="grid min-h-0 flex-1 lg:grid-cols-[296px_minmax(0,1fr)_316px]">
        <aside
          aria-label="Chain"
          className="order-2 min-h-0 overflow-y-auto border-rule px-4 py-1.5 lg:order-none lg:border-r"
        >
          <Chain store={store} prediction={prediction} open={link} onOpen={setLink} onBench={openBench} />
          <Notes store={store} />
        </aside>
        <div className="order-1 flex min-h-0 min-w-0 flex-col lg:order-none">
          <div className="flex items-start justify-between gap-3 px-4 pt-2.5">
            <Heading store={store} />
            <div className="no-print flex shrink-0 gap-1 pt-0.5">
              <button type="button" className={buttonStyle('quiet')} onClick={() => setHistory(true)}>
                History
              </button>
              <button type="button" className={buttonStyle('quiet')} onClick={() => downloadDesign(design)}>
                Export
              </button>
            </div>
          </div>
          <div className="flex h-[26rem] min-h-0 flex-none flex-col lg:h-auto lg:flex-1">
            <Climb
              prediction={climbed}
              fromTimeDomain={timeDomain.kind === 'ready'}
              targetVolts={laterDesign.target?.volts ?? null}
              selected={part}
              onSelect={choosePart}
              traces={tab === 'waveforms' ? traces : NO_TRACES}
              onTrace={tab === 'waveforms' ? trace : null}
            />
          </div>
          {part ? (
            <PartPanel
              prediction={laterPrediction}
              transient={timeDomain.kind === 'ready' ? timeDomain.run.transient : null}
              peaksSpread={laterDesign.spread.peaks}
              id={part}
              onClose={() => setPart(null)}
            />
          ) : null}
          <div className="h-[230px] shrink-0 border-t border-rule">
            <Charts
              design={laterDesign}
              prediction={laterPrediction}
              timeDomain={timeDomain}
              client={client}
              traces={traces}
              onTraces={setTraces}
              tab={tab}
              onTab={setTab}
              onEdit={store.getState().edit}
            />
          </div>
        </div>
        <div className="order-3 min-h-0 overflow-y-auto border-rule lg:order-none lg:border-l">
          <Verdict
            design={design}
            prediction={prediction}
            helps={helps}
            timeDomain={electrical === laterDesign ? timeDomain : WAITING}
            onApply={apply}
            onChanges={openChanges}
            chooseHref={`/choose?design=${stored.id}`}
            onGo={goTo}
          />
        </div>
        <VerdictStrip design={design} prediction={prediction} />
      </main>
      <ConflictDialog store={store} saveNow={saveNow} />
      {bench ? (
        <TransformerBench
          store={store}
          design={design}
          prediction={prediction}
          page={bench}
          onPage={turnBench}
          onClose={closeBench}
        />
      ) : null}
      {changes ? (
        <ChangesDialog design={laterDesign} client={client} onApply={apply} onClose={() => setChanges(false)} />
      ) : null}
      {history ? (
        <HistoryDialog
          id={stored.id}
          present={design}
          onClose={() => setHistory(false)}
          onRestore={(revision) => {
            store.getState().replace(revision.design);
            setHistory(false);
            toast(`Revision ${revision.revision} is back on screen.`);
          }}
        />
      ) : null}
    </div>
  );
}

/** Which page of the bench is open is kept in the address: it can be linked to, and the back button closes it. */
function useBenchInAddress() {
  const bench = benchPage(useSearchParams().get('bench'));
  const go = useCallback((page: BenchPage | null, how: 'pushState' | 'replaceState') => {
    const address = new URL(window.location.href);
    if (page) address.searchParams.set('bench', page);
    else address.searchParams.delete('bench');
    window.history[how](null, '', address);
  }, []);
  const openBench = useCallback((page: BenchPage) => go(page, 'pushState'), [go]);
  const turnBench = useCallback((page: BenchPage) => go(page, 'replaceState'), [go]);
  const closeBench = useCallback(() => go(null, 'replaceState'), [go]);
  return { bench, openBench, turnBench, closeBench };
}
