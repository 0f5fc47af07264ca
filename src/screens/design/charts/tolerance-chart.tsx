'use client';

import { Popover } from 'radix-ui';
import { Line } from 'react-chartjs-2';
import type { Design } from '@/core/design/design-schema';
import { FIGURES, type FigureId } from '@/core/predict/figures';
import type { Prediction } from '@/core/predict/prediction';
import { signedVolts } from '@/core/quantity/polarity';
import { histogramOf, type Band } from '@/core/numeric/statistics';
import type { SpreadGroup, Tolerance } from '@/core/predict/tolerance';
import { quantityField, type FieldDescription } from '@/core/quantity/field-description';
import { engineeringScale, formatQuantity } from '@/core/quantity/format-quantity';
import { DescribedField } from '@/ui/described-field';
import { Quantity } from '@/ui/quantity';
import { commonOptions, type Colours } from '@/ui/chart-style';
import type { ToleranceRun } from './use-tolerance';

const BARS = 40;

const GROUP_NAMES: Record<SpreadGroup, string> = {
  capacitors: 'capacitors',
  bias: 'what voltage takes of capacitance',
  peaks: 'the drive’s peaks',
  frequency: 'its frequency',
  forward: 'the diodes’ drop',
  source: 'the source’s resistance',
  strays: 'strays of diodes and wiring',
};

const SPREAD_FIELDS: readonly FieldDescription[] = [
  quantityField('peaks', 'Drive’s peaks, ±', '%'),
  quantityField('frequency', 'Frequency, ±', '%'),
  quantityField('forward', 'Diodes’ drop, ±', '%'),
  quantityField('source', 'Source resistance, ±', '%'),
  quantityField('strays', 'Strays, times or over', ''),
  quantityField('bias', 'Capacitance lost at voltage, ±', '%', {
    hint: 'Of the loss; counts where the DC-bias derating is known.',
  }),
];

/** How the output spreads when every part and the drive are as far off as they may be. */
export function ToleranceChart({
  design,
  prediction,
  run,
  colours,
  onEdit,
}: {
  design: Design;
  prediction: Prediction;
  run: ToleranceRun;
  colours: Colours;
  onEdit: (path: string, value: unknown) => string | null;
}) {
  if (run.kind === 'failed')
    return <p className="px-1 py-6 text-over">The draws failed. Change anything to try again.</p>;
  if (run.kind !== 'ready')
    return (
      <p role="status" className="px-1 py-6 text-soft">
        Drawing parts…
      </p>
    );
  if (!run.result.tolerance)
    return <p className="px-1 py-6 text-soft">The closed form has no figure at this load, so nothing can be drawn.</p>;
  return (
    <Drawn design={design} prediction={prediction} tolerance={run.result.tolerance} colours={colours} onEdit={onEdit} />
  );
}

function Drawn({
  design,
  prediction,
  tolerance,
  colours,
  onEdit,
}: {
  design: Design;
  prediction: Prediction;
  tolerance: Tolerance;
  colours: Colours;
  onEdit: (path: string, value: unknown) => string | null;
}) {
  const { outputs, meanVolts, samples } = tolerance;
  const { polarity } = prediction.output;
  const target = design.target?.volts ?? null;
  const bars = histogramOf(outputs, BARS);
  const [least, most] = [bars[0].from, bars[BARS - 1].to];
  const width = most === least ? 1 : (most - least) / BARS;
  const volts = engineeringScale(most, 'V');
  const tallest = Math.max(...bars.map(({ share }) => share));
  const options = commonOptions(colours, `output, mean, ${volts.name}`, 'share of samples');
  Object.assign(options.scales!.x!, {
    beginAtZero: false,
    min: Math.min(least - width, target ?? Infinity) / volts.per,
    max: Math.max(most + width, target ?? -Infinity) / volts.per,
  });
  options.scales!.y!.ticks!.callback = (value) => formatQuantity(Number(value), '%', 2);
  options.plugins!.tooltip!.enabled = false;
  const steps = bars.flatMap(({ from, to, share }) => [
    { x: from / volts.per, y: share },
    { x: to / volts.per, y: share },
  ]);
  const upright = (at: number, colour: string, dash: number[]) => ({
    data: [
      { x: at / volts.per, y: 0 },
      { x: at / volts.per, y: tallest * 1.05 },
    ],
    borderColor: colour,
    borderWidth: 1.5,
    borderDash: dash,
    pointRadius: 0,
  });
  const say = (value: number) => formatQuantity(signedVolts(value, polarity), 'V');
  const [first, second] = tolerance.shares;
  return (
    <div className="grid h-full gap-3 overflow-y-auto sm:grid-cols-[minmax(0,1fr)_20.5rem] sm:overflow-visible">
      <div className="h-40 min-h-0 min-w-0 sm:h-auto">
        <Line
          role="img"
          aria-label={`Spread of the output over ${samples} samples: from ${say(meanVolts.low)} to ${say(meanVolts.high)} in nine of ten`}
          options={options}
          data={{
            datasets: [
              {
                data: steps,
                borderColor: colours.climb,
                backgroundColor: `${colours.climb}33`,
                borderWidth: 1,
                pointRadius: 0,
                fill: 'origin',
              },
              upright(meanVolts.median, colours.summit, []),
              upright(meanVolts.low, colours.line, [3, 3]),
              upright(meanVolts.high, colours.line, [3, 3]),
              ...(target === null ? [] : [upright(target, colours.copper, [6, 3])]),
            ],
          }}
        />
      </div>
      <div className="text-[13px]">
        <dl>
          <BandRow id="outputMeanVolts" band={meanVolts} sign={polarity === 'negative' ? -1 : 1} />
          <BandRow id="rippleVolts" band={tolerance.ripplePeakToPeakVolts} />
          {tolerance.smallestMargin ? <BandRow id="smallestMargin" band={tolerance.smallestMargin} /> : null}
          {tolerance.chance === null ? null : (
            <div className="flex items-baseline justify-between gap-2 py-[1.5px]">
              <dt className="text-soft">Meets the target</dt>
              <dd data-tolerance="chance">
                in <Quantity value={tolerance.chance} unit="%" digits={3} /> of samples
              </dd>
            </div>
          )}
        </dl>
        <p className="mt-1">
          Most sensitive to {GROUP_NAMES[first.group]} (
          <Quantity value={Math.min(1, first.share)} unit="%" digits={2} /> of the spread), then{' '}
          {GROUP_NAMES[second.group]}.
        </p>
        <p className="mt-1 text-xs text-soft">
          {samples} samples, each factor uniform within its limits; capacitors ±
          <Quantity value={design.ladder.capacitor.tolerance} unit="%" digits={2} />, the drive ±
          <Quantity value={design.spread.peaks} unit="%" digits={2} />
          {tolerance.shares.some(({ group, share }) => group === 'strays' && share > 0)
            ? `, strays times or over ${design.spread.strays}`
            : ''}
          .{design.ladder.capacitor.dcBiasDerating === null ? ' DC-bias derating of the capacitors is not known.' : ''}{' '}
          <Popover.Root>
            <Popover.Trigger className="text-copper hover:underline">Tolerances…</Popover.Trigger>
            <Popover.Portal>
              <Popover.Content
                align="end"
                sideOffset={4}
                aria-label="Tolerances"
                className="z-30 w-72 rounded-md border border-rule bg-paper p-3"
              >
                {SPREAD_FIELDS.map((field) => (
                  <DescribedField
                    key={field.name}
                    field={field}
                    value={(design.spread as Record<string, unknown>)[field.name]}
                    onEdit={(value) => onEdit(`$.spread.${field.name}`, value)}
                  />
                ))}
                <p className="text-xs text-soft">The capacitors’ tolerance stands in the ladder’s card.</p>
              </Popover.Content>
            </Popover.Portal>
          </Popover.Root>
        </p>
      </div>
    </div>
  );
}

/** What 5, 50 and 95 of a hundred samples lie under. */
function BandRow({ id, band, sign = 1 }: { id: FigureId; band: Band; sign?: 1 | -1 }) {
  const { label, unit } = FIGURES[id];
  return (
    <div className="flex items-baseline justify-between gap-2 py-[1.5px]">
      <dt className="text-soft">{label}</dt>
      <dd className="whitespace-nowrap" data-tolerance={id}>
        <Quantity value={sign * band.low} unit={unit} /> <span className="text-soft">to</span>{' '}
        <Quantity value={sign * band.high} unit={unit} />
        <span className="text-soft">, median </span>
        <Quantity value={sign * band.median} unit={unit} />
      </dd>
    </div>
  );
}
