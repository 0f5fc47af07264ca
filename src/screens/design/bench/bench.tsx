'use client';

import dynamic from 'next/dynamic';
import Printer from 'lucide-react/icons/printer';
import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { useBenchSettings } from '@/client/bench-store';
import { patiently } from '@/client/patiently';
import { useMeter } from '@/client/meter-store';
import { tallyOf, tallyWords, type Agreement } from '@/core/bench/agreement';
import type { Fault } from '@/core/bench/faults/fault';
import { faultReadingsOf, type FaultTask } from '@/core/bench/faults/find';
import { fitReadingsOf } from '@/core/bench/fit-readings';
import { againstLoad } from '@/core/bench/measured-curves';
import type { ProvingTest } from '@/core/bench/proving';
import type { Session, SessionReadings } from '@/core/bench/session';
import { fractionsWith } from '@/core/bench/fractions';
import { stepsUpOf, type StepUp } from '@/core/bench/steps-up';
import type { Design } from '@/core/design/design-schema';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { buttonStyle } from '@/ui/button';
import { More } from '@/ui/more';
import { Quantity } from '@/ui/quantity';
import { useListening } from '@/ui/use-listening';
import { useSame } from '@/ui/use-same';
import type { TransientClient } from '@/worker/transient-client';
import { MeterFields } from '../meter-fields';
import { PagePart } from '../page-part';
import { PlanWaits } from '../plan-waits';
import type { EditorStore } from '../saving/editor-store';
import { FindingItem } from '../verdict/finding-item';
import { ReadingAt } from './reading-at';
import { DriverFit } from './driver-fit';
import { FaultFinder } from './fault-finder';
import { FitPanel } from './fit-panel';
import { FractionsField } from './fractions-field';
import { Logbook } from './logbook';
import { otherSteps, stepsReadOf, type Courses, type Readings } from './readings';
import { ReadingPad, type PadPlace } from './reading-pad';
import { SessionBar } from './session-bar';
import { SourceFields } from './source-fields';
import { SourceWords } from './source-words';
import { StepsUp } from './steps-up';
import { TapsTable } from './taps-table';
import { WhatIf } from './what-if';
import { useDesignOf } from './use-design-of';
import { useProving } from './use-proving';
import { useSessions } from './use-sessions';

/** A chart needs a browser to be drawn in. */
const TapsChart = dynamic(() => patiently(() => import('./taps-chart')).then((module) => module.TapsChart), {
  ssr: false,
});
const StepsChart = dynamic(() => patiently(() => import('./read-charts')).then((module) => module.StepsChart), {
  ssr: false,
});
const LoadChart = dynamic(() => patiently(() => import('./read-charts')).then((module) => module.LoadChart), {
  ssr: false,
});
const ScopeOverlay = dynamic(() => patiently(() => import('./scope-overlay')).then((module) => module.ScopeOverlay), {
  ssr: false,
});

type Props = {
  store: EditorStore;
  design: Design;
  client: TransientClient;
  /** Puts a fault of a part into the picture of the design. */
  onPutIn: (fault: Fault) => void;
};

/** What to read at the bench, tap by tap at low voltage, then step by step up to full drive; and what was read. */
export function Bench(props: Props) {
  // What this browser keeps is not known where the page is made.
  const listening = useListening();
  return listening ? <Listening {...props} /> : null;
}

function Listening({ store, design, client, onPutIn }: Props) {
  const id = useStore(store, (state) => state.id);
  const revision = useStore(store, (state) => state.revision);
  const isSaved = useStore(store, (state) => state.save.kind === 'saved');
  const { sessions, chosen, readings, alike, courses, choose, begin } = useSessions(id, revision);
  const { settings } = useBenchSettings();
  const { settings: ownMeter } = useMeter();
  // Fetched while the readings are, so that they are drawn as these arrive; what fails here is fetched again there.
  useEffect(() => void import('./read-charts').catch(() => undefined), []);
  const measured = useDesignOf(id, chosen?.revision ?? revision, revision, design);
  return (
    <section aria-labelledby="bench-title" className="mx-auto w-full max-w-5xl px-4 py-4 sm:px-6 print:px-0">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <h2 id="bench-title" className="text-base font-semibold">
          Low-voltage test
        </h2>
        <button type="button" className={`no-print ${buttonStyle('quiet')}`} onClick={() => window.print()}>
          <Printer className="size-4" aria-hidden="true" /> Print
        </button>
      </div>
      <p className="mt-1 max-w-[70ch] text-[13.5px] text-soft">
        What this meter reads at each tap of a ladder in which nothing is wrong, its load taken off. A reading within
        its band says that parts stand where they should; it says nothing of what they stand at full voltage.
      </p>
      <SessionBar sessions={sessions} chosen={chosen} isSaved={isSaved} onChoose={choose} onBegin={begin} />
      {chosen ? (
        <SourceWords session={chosen} revision={revision} />
      ) : (
        <div className="mt-3 grid gap-x-10 gap-y-3 sm:grid-cols-2">
          <PagePart title="Source">
            <SourceFields />
          </PagePart>
          <PagePart title="Your meter">
            <MeterFields />
          </PagePart>
        </div>
      )}
      {measured.kind === 'ready' ? (
        <Plans
          designId={id}
          design={measured.design}
          session={chosen ?? { source: settings.source, meter: ownMeter }}
          readings={readings}
          client={client}
          store={store}
          isPresent={chosen?.revision === revision}
          own={chosen}
          alike={alike}
          courses={courses}
          onPutIn={onPutIn}
        />
      ) : (
        <p className="py-4 text-soft" role="status">
          {measured.kind === 'loading'
            ? 'Fetching the revision…'
            : 'The revision that was measured cannot be fetched: there is nothing to compare with.'}
        </p>
      )}
    </section>
  );
}

function Plans({
  designId,
  design,
  session: { source, meter },
  readings,
  client,
  store,
  isPresent,
  own,
  alike,
  courses,
  onPutIn,
}: {
  designId: string;
  design: Design;
  session: Pick<Session, 'source' | 'meter'>;
  readings: Readings | null;
  client: TransientClient;
  store: EditorStore;
  /** Whether the session is of the revision on screen. */
  isPresent: boolean;
  /** The session on screen; null without one. */
  own: Session | null;
  /** All sessions of its revision. */
  alike: readonly SessionReadings[];
  courses: Courses | null;
  onPutIn: Props['onPutIn'];
}) {
  const latest = useProving(design, source, meter, client);
  const read = useMemo(() => fitReadingsOf(design, alike), [design, alike]);
  const { settings } = useBenchSettings();
  const fractions = useSame(fractionsWith(settings.fractions, readings?.all ?? []));
  const steps = useMemo(() => stepsUpOf(design, fractions, meter), [design, fractions, meter]);
  const others = useMemo(() => (own ? otherSteps(own, alike) : []), [own, alike]);
  const loaded = useMemo(() => (readings ? againstLoad(design, meter, readings.all) : null), [design, meter, readings]);
  const faultReadings = useSame(
    useMemo(() => {
      const found = own && faultReadingsOf({ session: own, readings: [...(readings?.all ?? [])] });
      return found?.some(({ kind }) => kind === 'tap') ? found : null;
    }, [own, readings]),
  );
  const toFind = useMemo(
    () => faultReadings && { design, source, meter, readings: faultReadings },
    [faultReadings, design, source, meter],
  );
  const task = useMemo(
    () => (latest.kind === 'ready' && toFind ? { ...toFind, test: latest.result } : null),
    [latest, toFind],
  );
  // What takes long is computed one after the other: the fit last.
  const [searched, setSearched] = useState<FaultTask | null>(null);
  const isFaultKnown = toFind === null || latest.kind === 'failed' || (task !== null && searched === task);
  const records = useMemo(
    () => readings?.all.flatMap((entry) => (entry.kind === 'scope' ? [entry] : [])) ?? [],
    [readings],
  );
  return (
    <>
      {latest.kind === 'ready' && readings ? <Tally counts={tallyOf(latest.result, steps, readings.at)} /> : null}
      {readings && latest.kind === 'ready' ? (
        <PadOf readings={readings} test={latest.result} steps={steps} mostVolts={meter.limitVolts} />
      ) : null}
      <PlanWaits latest={latest} />
      {latest.kind === 'ready' ? (
        <LowTest
          designName={design.name}
          test={latest.result}
          readings={readings}
          courses={courses}
          mostVolts={meter.limitVolts}
          isOwn={source.kind === 'turned-down'}
        />
      ) : null}
      {toFind && latest.kind !== 'failed' ? (
        <PagePart title="What may be wrong">
          <FaultFinder known={toFind} task={task} onOver={setSearched} onPutIn={isPresent ? onPutIn : null} />
        </PagePart>
      ) : null}
      {latest.kind === 'ready' && latest.result.taps.length > 0 ? (
        <More words="What would I see if…">
          <WhatIf design={design} source={source} meter={meter} test={latest.result} />
        </More>
      ) : null}
      {readings && alike.length > 0 ? (
        <PagePart title="Fit to the readings">
          <FitPanel
            design={design}
            readings={read}
            client={client}
            store={store}
            isPresent={isPresent}
            isHeld={!isFaultKnown}
          />
          <DriverFit design={design} sessions={alike} store={store} isPresent={isPresent} />
        </PagePart>
      ) : null}
      <PagePart title="Steps to full drive">
        <FractionsField />
        <StepsUp steps={steps} readings={readings} mostVolts={meter.limitVolts} />
        {readings ? (
          <StepsChart designName={design.name} steps={steps} read={stepsReadOf(readings.all)} others={others} />
        ) : null}
      </PagePart>
      {loaded ? (
        <PagePart title="Against the load">
          <LoadChart designName={design.name} against={loaded} />
        </PagePart>
      ) : null}
      {records.length > 0 ? (
        <PagePart title="Scope record">
          <ScopeOverlay design={design} source={source} records={records} client={client} />
        </PagePart>
      ) : null}
      {readings ? (
        <PagePart title="Other readings, failures, pictures">
          <Logbook designId={designId} design={design} meter={meter} readings={readings} />
        </PagePart>
      ) : null}
    </>
  );
}

/** The number pad, with the plan's places in their order. */
function PadOf({
  test,
  steps,
  readings,
  mostVolts,
}: {
  test: ProvingTest;
  steps: readonly StepUp[];
  readings: Readings;
  mostVolts: number;
}) {
  const places: PadPlace[] = [
    ...(test.source ? [{ kind: 'source' as const, place: '', name: 'Source', expected: test.source }] : []),
    ...test.taps.flatMap(({ node, reading, isOverMeter }) =>
      isOverMeter ? [] : [{ kind: 'tap' as const, place: node, name: `Tap ${node}`, expected: reading }],
    ),
    ...steps.flatMap(({ fraction, shown, refused }) =>
      refused
        ? []
        : [
            {
              kind: 'output' as const,
              place: String(fraction),
              name: `Output at ${formatQuantity(fraction, '%')}`,
              expected: shown,
            },
          ],
    ),
  ];
  return places.length > 0 ? (
    <div className="mt-2">
      <ReadingPad places={places} readings={readings} mostVolts={mostVolts} />
    </div>
  ) : null;
}

/** How the readings stand to what was expected, in one line. */
function Tally({ counts }: { counts: Record<Agreement, number> }) {
  const words = tallyWords(counts);
  return words ? (
    <p className="mt-2 text-[13.5px]" data-bench="tally">
      Of the readings that have a band: {words}.
    </p>
  ) : null;
}

function LowTest({
  designName,
  test,
  readings,
  courses,
  mostVolts,
  isOwn,
}: {
  designName: string;
  test: ProvingTest;
  readings: Readings | null;
  courses: Courses | null;
  mostVolts: number;
  /** Whether it runs on the design's own drive. */
  isOwn: boolean;
}) {
  return (
    <div aria-live="polite">
      <PagePart title="Expected readings">
        <p className="mb-1 max-w-[75ch] text-[13.5px]" data-bench="source">
          {test.source ? (
            <>
              First {isOwn ? 'the drive, at the ladder’s input' : 'the source itself, with the ladder on it'}:{' '}
              <Quantity value={test.source.value} unit="V" digits={4} />.{' '}
              {isOwn
                ? ''
                : 'Where it reads otherwise, change the voltage of the source until this is what it reads, before a session is begun. '}
            </>
          ) : test.findings.some(({ code }) => code === 'meter-over-voltage') ? (
            'The source itself is more than the meter takes. '
          ) : null}
          Then dc against ground, one hand, from the foot up.
        </p>
        {readings && test.source ? (
          <div className="mb-1">
            <ReadingAt
              readings={readings}
              kind="source"
              place=""
              name="the source"
              expected={test.source}
              mostValue={mostVolts}
            />
          </div>
        ) : null}
        <TapsTable taps={test.taps} readings={readings} mostVolts={mostVolts} />
        {courses ? (
          <TapsChart designName={designName} taps={test.taps} read={courses.own} others={courses.others} />
        ) : null}
        <ul aria-label="Of this test" className="mt-2 grid max-w-[75ch] gap-2">
          {test.findings.map((finding) => (
            <FindingItem key={finding.code} finding={finding} />
          ))}
        </ul>
      </PagePart>
    </div>
  );
}
