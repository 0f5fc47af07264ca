'use client';

import dynamic from 'next/dynamic';
import { patiently } from '@/client/patiently';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { attempt } from '@/client/attempt';
import { useRequirements } from '@/client/requirements-store';
import { createDesign, fetchDesign, saveDesign } from '@/client/designs-api';
import { useStandingDrawer } from '@/client/drawer-store';
import { baseOf } from '@/core/choose/requirements';
import { betterIn, type Choices, type Purchase } from '@/core/choose/choose';
import { reasonsOf, formatTarget } from '@/core/choose/reasons';
import { appliedTo, formOf, type ChoiceRow } from '@/core/choose/row';
import type { SearchTask } from '@/core/choose/search';
import { stocksFor } from '@/core/choose/stock';
import type { Design } from '@/core/design/design-schema';
import type { Drawer } from '@/core/drawer/drawer-messages';
import { formatCount, formatQuantity } from '@/core/quantity/format-quantity';
import { buttonStyle } from '@/ui/button';
import { useCommands } from '@/ui/commands';
import { countingCommand, useCounting } from '@/ui/use-counting';
import { TopBar } from '@/ui/top-bar';
import { RequirementsForm } from './requirements-form';
import { ChoiceCard } from './choice-card';
import { ChoicesTable } from './choices-table';
import { useChoosing, type Choosing } from './use-choosing';

/** A chart needs a browser to be drawn in. */
const ChoicesChart = dynamic(() => patiently(() => import('./choices-chart')).then((module) => module.ChoicesChart), {
  ssr: false,
});

type Shelved = { id: string; design: Design };

/** What to build for a target: requirements on the left, the trade-off on the right, live. */
export function ChooseScreen({
  designs,
  opening,
  from,
}: {
  /** Those whose drive can be taken, the latest first. */
  designs: readonly { id: string; name: string }[];
  /** The drawer's, as JSON. */
  opening: string;
  /** The design whose drive, and target, it starts from. */
  from: Shelved | null;
}) {
  const router = useRouter();
  // What was put into the drawer a moment ago may still be on its way to the server.
  const { drawer, toCome } = useStandingDrawer(opening);
  const isRead = toCome === 0;
  const { requirements, edit, known, wake } = useRequirements();
  useEffect(() => {
    // What the browser kept is not known to the server, so it is read once the page stands.
    void wake(from);
  }, [from, wake]);
  const [chosenKey, setChosenKey] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const base = useMemo(() => baseOf(requirements, from?.design ?? null), [requirements, from]);
  const task = useMemo<SearchTask>(
    () => ({ requirements, base, stocks: stocksFor(requirements, base, drawer, from?.id ?? null) }),
    [requirements, base, drawer, from],
  );
  const [selected, setSelected] = useState<ChoiceRow | null>(null);
  const { choosing, stop, restart, settled } = useChoosing(known && isRead ? task : null, selected);
  const { choices, rows } = choosing;
  const purchases = choices?.purchases.map(({ row }) => row) ?? [];
  const chosen = [...rows, ...purchases].find(({ key }) => key === chosenKey) ?? rows[0] ?? null;
  if (choosing.kind === 'ready' && chosen !== selected) setSelected(chosen);
  const { polarity } = requirements.target;
  const { counting, setCounting } = useCounting();

  /** Does something at the server with the buttons held meanwhile. */
  const held = async (what: string, work: () => Promise<void>) => {
    setBusy(true);
    await attempt(what, work);
    setBusy(false);
  };
  const make = (row: ChoiceRow, all: Choices) =>
    held('Making the design', async () => {
      const stored = await createDesign(appliedTo(null, row, reasonsOf(row, all, requirements, counting), counting));
      router.push(`/designs/${stored.id}`);
    });
  const putInto = (row: ChoiceRow, all: Choices, { id }: Shelved) =>
    held('Putting it into the design', async () => {
      const standing = await fetchDesign(id);
      const changed = appliedTo(standing.design, row, reasonsOf(row, all, requirements, counting), counting);
      const { conflict } = await saveDesign(id, standing.revision, changed);
      if (conflict) toast.error('The design was changed in another tab at that very moment. Try again.');
      else router.push(`/designs/${id}`);
    });

  useCommands(
    useMemo(
      () => [
        { name: 'Stop the search', keys: 'escape', run: stop },
        { name: 'Search again', keys: 'r', run: restart },
        countingCommand(counting, setCounting),
        { name: 'Print', run: () => window.print() },
      ],
      [stop, restart, counting, setCounting],
    ),
  );

  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <TopBar here="choose" />
      <main className="grid min-h-0 flex-1 lg:grid-cols-[19rem_minmax(0,1fr)]">
        <form
          aria-label="Requirements"
          onSubmit={(event) => event.preventDefault()}
          className="no-print order-last border-t border-rule lg:order-none lg:overflow-y-auto lg:border-t-0 lg:border-r"
        >
          <RequirementsForm
            requirements={requirements}
            edit={edit}
            designs={designs}
            from={from}
            onFrom={(id) => router.replace(id === '' ? '/choose' : `/choose?design=${id}`)}
            base={base}
          />
        </form>
        <div className="min-w-0 px-3 py-4 sm:px-5 lg:overflow-y-auto">
          <div className="flex flex-wrap items-start gap-3">
            <h1 className="min-w-0 flex-1 text-[17px] leading-snug font-semibold tracking-tight" role="status">
              <SearchSentence choosing={choosing} wanted={formatTarget(requirements.target)} />
            </h1>
            {choosing.kind === 'working' ? (
              <button type="button" className={buttonStyle('plain')} onClick={stop}>
                Stop
              </button>
            ) : (
              <button type="button" className={buttonStyle('plain')} onClick={restart}>
                Search again
              </button>
            )}
          </div>
          <ProgressBar choosing={choosing} />
          {isRead ? <LeftOut task={task} drawer={drawer} /> : null}
          {chosen ? (
            <div className="mt-3 grid gap-4 md:grid-cols-[minmax(0,1fr)_19rem]">
              <div className="h-64 min-w-0">
                <ChoicesChart rows={rows} chosen={chosen} polarity={polarity} onChoose={setChosenKey} />
              </div>
              <ChoiceCard
                row={chosen}
                settled={settled.get(chosen.key)}
                polarity={polarity}
                intoName={from?.design.name ?? null}
                busy={busy || choices === null}
                onMake={() => choices && void make(chosen, choices)}
                onPutInto={() => choices && from && void putInto(chosen, choices, from)}
              />
            </div>
          ) : null}
          {choices && choices.purchases.length > 0 ? (
            <Purchases
              purchases={choices.purchases}
              best={choices.reached ? choices.rows[0] : null}
              onSelect={setChosenKey}
            />
          ) : null}
          {rows.length > 0 ? (
            <>
              <ChoicesTable rows={rows} chosen={chosen} polarity={polarity} settled={settled} onChoose={setChosenKey} />
              <p className="mt-2 text-[13px] text-soft">
                Those that overshoot the target least come first. Strings are tried as long as their stress asks for and
                one part longer; ladders that without load stand at over four times what reaches the target are passed
                over, and of many alike few are listed.
              </p>
            </>
          ) : null}
        </div>
      </main>
    </div>
  );
}

/** Where the search stands, in a sentence. */
function SearchSentence({ choosing, wanted }: { choosing: Choosing; wanted: string }) {
  const { kind, progress, choices, milliseconds } = choosing;
  if (kind === 'failed')
    return <span className="text-over">The search failed. Search again, or change the requirements.</span>;
  if (kind === 'stopped')
    return (
      <>
        Stopped
        {progress ? ` after ${formatCount(progress.evaluated)} of ${formatCount(progress.of)} candidates` : ''}.
      </>
    );
  if (!choices)
    return (
      <>
        Evaluating candidates for {wanted}
        {progress
          ? `: ${formatCount(progress.evaluated)} of ${formatCount(progress.of)}, ${formatCount(progress.fitting)} meet the target`
          : '…'}
      </>
    );
  const evaluated = `${formatCount(choices.evaluated)} candidates evaluated in ${formatQuantity((milliseconds.all ?? 0) / 1e3, 's', 2)}`;
  if (choices.evaluated === 0) return <>There is nothing to evaluate for {wanted}.</>;
  if (!choices.reached)
    return (
      <>
        <span className="text-over">Nothing here meets the target of {wanted}.</span>{' '}
        {choices.rows.length > 0
          ? `What comes nearest stands first; ${evaluated}.`
          : `${evaluated}; of none that can be built is there a figure.`}
      </>
    );
  return (
    <>
      <span className="text-fits">
        {formatCount(choices.fitting)} candidates meet the target of {wanted}.
      </span>{' '}
      {choices.rows.length === 1 ? 'One beats all others' : `No other beats these ${choices.rows.length}`}; {evaluated}.
    </>
  );
}

function ProgressBar({ choosing: { kind, progress } }: { choosing: Choosing }) {
  if (kind !== 'working') return null;
  return (
    <div
      role="progressbar"
      aria-label="Search"
      aria-valuenow={Math.round(100 * (progress?.fraction ?? 0))}
      className="mt-2 h-1 overflow-hidden rounded bg-tint"
    >
      <div className="h-full bg-copper" style={{ width: `${100 * (progress?.fraction ?? 0)}%` }} />
    </div>
  );
}

/** What a search cannot use, and where to put that right. */
function LeftOut({ task: { requirements, stocks }, drawer }: { task: SearchTask; drawer: Drawer }) {
  if (requirements.parts === 'any') return null;
  const { capacitors, diodes, unrated } = stocks;
  const missing = [capacitors.length === 0 ? 'capacitors' : '', diodes.length === 0 ? 'diodes' : ''].filter(Boolean);
  if (missing.length === 0 && unrated.length === 0) return null;
  return (
    <p className="mt-2 text-[13px] text-soft">
      {missing.length > 0
        ? `The drawer ${drawer.parts.length === 0 ? 'is empty' : `has no ${missing.join(' and no ')} with a rating`}: put some in, or search any value. `
        : ''}
      {unrated.length > 0 ? `Left out, since their rated voltage is not known: ${unrated.join(', ')}. ` : ''}
      <Link href="/drawer" className="text-copper underline">
        Open the drawer
      </Link>
    </p>
  );
}

/** What one purchase would bring. */
function Purchases({
  purchases,
  best,
  onSelect,
}: {
  purchases: readonly Purchase[];
  /** The best without a purchase, where something meets the target. */
  best: ChoiceRow | null;
  onSelect: (key: string) => void;
}) {
  const { counting } = useCounting();
  return (
    <section aria-label="One purchase" className="mt-3 border-l-[3px] border-copper pl-3 text-[13px]">
      <h2 className="font-semibold">{best ? 'What one purchase would gain' : 'One purchase would meet the target'}</h2>
      <ul>
        {purchases.map(({ part, count, price, row }) => (
          <li key={part} className="flex flex-wrap items-baseline gap-x-2">
            <span>
              {count} more of {part}
              {price === null ? '' : ` (${price.toFixed(2)})`}: {formOf(row.shape, counting)}
              {best ? `; ${betterIn(row, best).join(', ')}` : ''}
            </span>
            <button type="button" className="text-copper hover:underline" onClick={() => onSelect(row.key)}>
              Select it
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
