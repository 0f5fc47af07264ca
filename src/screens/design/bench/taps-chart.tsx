'use client';

import { Line } from 'react-chartjs-2';
import type { Tap } from '@/core/bench/proving';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { commonOptions, useColours, type Colours } from '@/ui/chart-style';
import { Framed } from './framed';

/** What was read at taps in one session, by their nodes, V. */
export type Course = ReadonlyMap<string, number>;

/** Along the ladder: how far off what is expected each reading is, within which band, and those of other sessions on the same source. */
export function TapsChart({
  designName,
  taps,
  read,
  others,
}: {
  designName: string;
  taps: readonly Tap[];
  read: Course;
  others: readonly Course[];
}) {
  const colours = useColours();
  const expected = taps.filter(({ reading }) => reading !== null);
  if (!colours || expected.length < 2 || read.size === 0) return null;
  return (
    <Framed designName={designName} what="along the ladder" label={wordsOf(expected, read)}>
      <Drawn taps={expected} read={read} others={others} colours={colours} />
    </Framed>
  );
}

/** How far from what is expected, % of it. */
const offBy = (volts: number, expected: number): number => (expected === 0 ? 0 : 100 * (volts / expected - 1));

const wordsOf = (taps: readonly Tap[], read: Course): string =>
  `Along the ladder: ${taps
    .map(({ node, reading }) => {
      const value = read.get(node);
      return `${node} expected ${formatQuantity(reading!.value, 'V')}${value === undefined ? '' : `, read ${formatQuantity(value, 'V')}`}`;
    })
    .join('; ')}`;

function Drawn({
  taps,
  read,
  others,
  colours,
}: {
  taps: readonly Tap[];
  read: Course;
  others: readonly Course[];
  colours: Colours;
}) {
  const options = commonOptions(colours, 'tap', 'off by, %');
  Object.assign(options.scales!.x!, { min: -0.3, max: taps.length - 0.7, beginAtZero: false });
  Object.assign(options.scales!.x!.ticks!, {
    stepSize: 1,
    callback: (at: number | string) => taps[Number(at)]?.node ?? '',
  });
  options.plugins!.tooltip!.callbacks = {
    title: ([item]) => taps[item.parsed.x!]?.node ?? '',
    label: (item) => `${item.dataset.label}: ${formatQuantity(item.parsed.y!, '', 2)} % off`,
  };
  const along = (of: (tap: Tap) => number | undefined) =>
    taps.flatMap((tap, x) => {
      const volts = of(tap);
      return volts === undefined ? [] : [{ x, y: offBy(volts, tap.reading!.value) }];
    });
  const dots = (course: Course, label: string, colour: string, size: number) => ({
    label,
    data: along(({ node }) => course.get(node)),
    showLine: false,
    pointRadius: size,
    pointBackgroundColor: colour,
    borderColor: colour,
  });
  const edge = { borderWidth: 0, pointRadius: 0, pointHitRadius: 0 };
  return (
    <Line
      options={options}
      data={{
        datasets: [
          dots(read, 'read', colours.copper, 4),
          ...others.map((course) => dots(course, 'read in another session', colours.soft, 2.5)),
          {
            label: 'expected',
            data: along(({ reading }) => reading!.value),
            borderColor: colours.climb,
            borderWidth: 1.5,
            pointRadius: 0,
          },
          { label: 'least', data: along(({ reading }) => reading!.low), ...edge },
          {
            label: 'most',
            data: along(({ reading }) => reading!.high),
            ...edge,
            fill: '-1',
            backgroundColor: `color-mix(in srgb, ${colours.climb} 18%, transparent)`,
          },
        ],
      }}
    />
  );
}
