'use client';

import { useMemo, useState, type ReactNode } from 'react';
import { Climb } from '@/climb/climb';
import { createPlayer } from '@/climb/player';
import { tallyWords } from '@/core/bench/agreement';
import { READING_KINDS } from '@/core/bench/entries';
import { placeWords } from '@/core/bench/entry-words';
import { readingsBeside, stoodAs } from '@/core/bench/session';
import { toldDifferences } from '@/core/design/change-words';
import type { Design } from '@/core/design/design-schema';
import { comparedFigures, comparedWith, partsOf } from '@/core/predict/compared';
import type { Prediction } from '@/core/predict/prediction';
import { fitOf } from '@/core/quantity/margin';
import { CONDITIONS, formatSubject } from '@/core/quantity/ratings';
import { FitMark } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';
import { useCounting } from '@/ui/use-counting';
import type { Found } from './use-side';

const WEAKEST = 5;
const NO_TRACES: readonly string[] = [];

/** Two designs beside each other: what differs, figures, margins, parts, readings, and both ladders on one scale. */
export function Compared({ one, other }: { one: Found; other: Found }) {
  if (!one.design || !other.design)
    return <p className="mt-6 text-soft">A revision that cannot be read has nothing to compare.</p>;
  return <Beside one={{ ...one, design: one.design }} other={{ ...other, design: other.design }} />;
}

type Sound = Found & { design: Design };

function Beside({ one, other }: { one: Sound; other: Sound }) {
  const [a, b] = [one.design, other.design];
  const first = useMemo(() => comparedWith(a), [a]);
  const second = useMemo(() => comparedWith(b), [b]);
  const { counting } = useCounting();
  const names =
    one.side.id === other.side.id ? [`Revision ${one.revision}`, `Revision ${other.revision}`] : [a.name, b.name];
  const told = toldDifferences(a, b, counting);
  const readings = readingsBeside(one.sessions, other.sessions);
  return (
    <>
      <div className="mt-4 grid gap-4 sm:grid-cols-2">
        <Pictured name={names[0]} prediction={first} beside={second} />
        <Pictured name={names[1]} prediction={second} beside={first} />
      </div>
      <Table title="What differs" names={names} empty={told.length === 0 ? 'Nothing but, perhaps, the notes.' : null}>
        {told.map((difference) => (
          <Row key={difference.path} name={difference.name} one={difference.one} other={difference.other} />
        ))}
      </Table>
      <Table title="Figures" names={names} empty={null}>
        {comparedFigures(first, second).map(({ id, label, unit, one: was, other: is, change }) => (
          <Row
            key={id}
            name={label}
            one={was === null ? null : <Quantity value={was} unit={unit} />}
            other={is === null ? null : <Quantity value={is} unit={unit} />}
            beside={change === null || unit === '%' ? null : <Quantity value={change} unit="%" digits={2} plus />}
          />
        ))}
      </Table>
      <Table title="Parts" names={names} empty={null}>
        {partsOf(a, first).map((part, at) => {
          const [was, is] = [part, partsOf(b, second)[at]].map(({ count, farads, ratedVolts }) => (
            <>
              {count} {farads === null ? null : <Quantity value={farads} unit="F" />}{' '}
              {ratedVolts === null ? null : <Quantity value={ratedVolts} unit="V" />}
            </>
          ));
          return (
            <Row key={part.kind} name={part.kind === 'capacitor' ? 'Capacitors' : 'Diodes'} one={was} other={is} />
          );
        })}
      </Table>
      <h2 className="mt-5 text-[13px] font-semibold text-soft">Weakest parts</h2>
      <div className="grid gap-4 sm:grid-cols-2">
        {[first, second].map((prediction, at) => (
          <Weakest key={at} name={names[at]} prediction={prediction} />
        ))}
      </div>
      <Table
        title="Readings, the last at each place"
        names={names}
        empty={readings.length === 0 ? 'Neither was measured at the bench.' : null}
      >
        <Row
          name="Of those with a band"
          one={tallyWords(stoodAs(one.sessions.flatMap((session) => session.readings)))}
          other={tallyWords(stoodAs(other.sessions.flatMap((session) => session.readings)))}
        />
        {readings.map(({ kind, at, one: was, other: is }) => (
          <Row
            key={`${kind} ${at}`}
            name={`${READING_KINDS[kind].name}${placeWords(kind, at)}`}
            one={was === null ? null : <Quantity value={was} unit={READING_KINDS[kind].unit} digits={4} />}
            other={is === null ? null : <Quantity value={is} unit={READING_KINDS[kind].unit} digits={4} />}
          />
        ))}
      </Table>
    </>
  );
}

/** A ladder drawn on the scale of both. */
function Pictured({ name, prediction, beside }: { name: string; prediction: Prediction; beside: Prediction }) {
  const [player] = useState(() => createPlayer());
  const [selected, setSelected] = useState<string | null>(null);
  return (
    <section aria-label={name} className="min-w-0 border border-rule">
      <h2 className="truncate px-3 pt-2 font-semibold" title={name}>
        {name}
      </h2>
      {prediction.output.alternating ? (
        <p className="px-3 py-10 text-soft">No ladder: nothing climbs.</p>
      ) : (
        <div className="flex h-80 flex-col">
          <Climb
            prediction={prediction}
            fromTimeDomain={false}
            targetVolts={null}
            selected={selected}
            onSelect={setSelected}
            traces={NO_TRACES}
            onTrace={null}
            player={player}
            waiting={null}
            ghost={null}
            beside={beside.output.alternating ? undefined : beside}
          />
        </div>
      )}
    </section>
  );
}

function Weakest({ name, prediction: { margins } }: { name: string; prediction: Prediction }) {
  if (margins.length === 0) return <p className="text-[13.5px] text-soft">{name}: no ratings are known.</p>;
  return (
    <ul aria-label={`Weakest parts of ${name}`} className="text-[13.5px]">
      {margins.slice(0, WEAKEST).map(({ id, part, condition, margin }) => (
        <li key={`${id} ${part} ${condition}`} className="flex items-baseline gap-2 border-b border-rule py-0.5">
          <FitMark fit={fitOf(margin)} />
          <span className="min-w-0 flex-1">
            {formatSubject({ id, part })}, {CONDITIONS[condition]}
          </span>
          <Quantity value={margin} unit="%" digits={2} plus />
        </li>
      ))}
    </ul>
  );
}

function Table({
  title,
  names,
  empty,
  children,
}: {
  title: string;
  names: readonly string[];
  /** What is said instead where there is nothing. */
  empty: string | null;
  children: ReactNode;
}) {
  return (
    <section className="mt-5">
      <h2 className="text-[13px] font-semibold text-soft">{title}</h2>
      {empty ? (
        <p className="text-[13.5px]">{empty}</p>
      ) : (
        <table className="w-full table-fixed text-left text-[13.5px]" aria-label={title}>
          <thead className="text-soft">
            <tr className="border-b border-rule align-bottom">
              <th className="w-[34%] py-1 pr-3 font-normal" />
              {names.map((name, at) => (
                <th key={at} className="truncate py-1 pr-3 font-normal" title={name}>
                  {name}
                </th>
              ))}
              <th className="hidden w-20 py-1 text-right font-normal sm:table-cell" />
            </tr>
          </thead>
          <tbody>{children}</tbody>
        </table>
      )}
    </section>
  );
}

function Row({
  name,
  one,
  other,
  beside = null,
}: {
  name: string;
  one: ReactNode;
  other: ReactNode;
  beside?: ReactNode;
}) {
  return (
    <tr data-compared={name} className="border-b border-rule align-baseline">
      <th scope="row" className="py-1 pr-3 font-normal text-soft">
        {name}
      </th>
      <td className="py-1 pr-3 break-words">{one ?? <span className="text-soft">none</span>}</td>
      <td className="py-1 pr-3 break-words">{other ?? <span className="text-soft">none</span>}</td>
      <td className="hidden py-1 text-right text-soft sm:table-cell">{beside}</td>
    </tr>
  );
}
