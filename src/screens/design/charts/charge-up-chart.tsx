'use client';

import type { Chart } from 'chart.js';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { Line } from 'react-chartjs-2';
import { MomentOnChart } from '@/climb/moment-on-chart';
import type { Player } from '@/climb/player';
import type { Design } from '@/core/design/design-schema';
import { DRIVE_FIGURES, figuresInOrder } from '@/core/drive/figures';
import type { Prediction } from '@/core/predict/prediction';
import { signedVolts } from '@/core/quantity/polarity';
import { engineeringScale, formatQuantity } from '@/core/quantity/format-quantity';
import type { ChargeUp } from '@/core/transient/charge-up';
import { buttonStyle } from '@/ui/button';
import { Quantity } from '@/ui/quantity';
import type { TransientClient } from '@/worker/transient-client';
import { commonOptions, type Colours } from '@/ui/chart-style';
import { useLatest } from '@/ui/use-latest';
import { TimeDomainWaits } from './time-domain-waits';
import type { OnMoments } from '../use-motion';
import type { TimeDomain } from '../use-transient';

type ChargeUpProps = {
  design: Design;
  prediction: Prediction;
  timeDomain: TimeDomain;
  client: TransientClient;
  colours: Colours;
  player: Player;
  onMoments: OnMoments;
};

type Progress = { fraction: number; seconds: number };

/** From dead to 95 %: how long it takes, and the surge on the way. */
export function ChargeUpChart({ design, prediction, timeDomain, client, colours, player, onMoments }: ChargeUpProps) {
  const [exactFor, setExactFor] = useState<Design | null>(null);
  const exact = exactFor === design;
  const settledVolts = timeDomain.kind === 'ready' ? timeDomain.run.transient.terminalMeanVolts : null;
  const job = useMemo(
    () =>
      settledVolts === null
        ? null
        : {
            run: (report: (progress: Progress) => void) =>
              client.chargeUp(design, settledVolts, exact, (fraction, seconds) => report({ fraction, seconds })),
            cancel: () => client.cancel('chargeUp'),
          },
    [design, settledVolts, exact, client],
  );
  const [run, stop] = useLatest(job);
  if (settledVolts === null) return <TimeDomainWaits timeDomain={timeDomain} />;
  if (run.kind === 'failed') return <p className="px-1 py-6 text-over">Charge-up failed: {run.reason}</p>;
  if (run.kind === 'stopped')
    return (
      <p className="px-1 py-6 text-soft">
        Stopped.{' '}
        <button type="button" className="text-copper underline" onClick={() => setExactFor(exact ? null : design)}>
          {exact ? 'Show the envelope' : 'Run every period'}
        </button>
      </p>
    );
  if (run.kind === 'working') {
    const { fraction, seconds } = run.progress ?? { fraction: 0, seconds: 0 };
    return (
      <div role="status" className="px-1 py-6 text-soft">
        Charging: {Math.round(100 * Math.min(1, fraction))} % after {formatQuantity(seconds, 's')}{' '}
        <progress className="mx-2 align-middle" value={Math.min(1, fraction)} max={0.95} aria-label="Charge-up" />
        <button type="button" className={buttonStyle('quiet')} onClick={stop}>
          Stop
        </button>
      </div>
    );
  }
  return (
    <Done
      result={run.result}
      prediction={prediction}
      colours={colours}
      player={player}
      onMoments={onMoments}
      onExact={run.result.exact ? null : () => setExactFor(design)}
    />
  );
}

function Done({
  result,
  prediction,
  colours,
  player,
  onMoments,
  onExact,
}: {
  result: ChargeUp;
  prediction: Prediction;
  colours: Colours;
  player: Player;
  onMoments: OnMoments;
  onExact: (() => void) | null;
}) {
  const chart = useRef<Chart<'line'> | null>(null);
  useEffect(() => {
    onMoments('charge-up', result.moments);
    return () => onMoments('charge-up', null);
  }, [onMoments, result]);
  const { samples, surge, reached, gap } = result;
  const { polarity } = prediction.output;
  const time = engineeringScale(samples[samples.length - 1].seconds, 's');
  const volts = engineeringScale(Math.max(...samples.map((sample) => sample.maxVolts), 1e-9), 'V');
  const options = commonOptions(colours, `time from switch-on, ${time.name}`, `terminal, ${volts.name}`);
  options.plugins!.tooltip!.callbacks = {
    title: (items) => formatQuantity(items[0].parsed.x! * time.per, 's'),
    label: (item) => formatQuantity(signedVolts(item.parsed.y! * volts.per, polarity), 'V', 4),
  };
  const toEnd = reached[reached.length - 1].seconds;
  return (
    <div className="grid h-full gap-3 overflow-y-auto sm:grid-cols-[minmax(0,1fr)_17rem] sm:overflow-visible">
      <div className="h-40 min-h-0 min-w-0 sm:h-auto">
        <MomentOnChart player={player} kind="charge-up" chart={chart} secondsPer={time.per}>
          <Line
            ref={(line) => {
              chart.current = line ?? null;
            }}
            role="img"
            aria-label={`Charge-up: ${toEnd === null ? (result.reason ?? 'not reached') : `95 % after ${formatQuantity(toEnd, 's')}`}`}
            options={options}
            data={{
              datasets: [
                {
                  data: samples.map((sample) => ({ x: sample.seconds / time.per, y: sample.meanVolts / volts.per })),
                  borderColor: colours.climb,
                  borderWidth: 2,
                  pointRadius: 0,
                  pointHitRadius: 8,
                },
              ],
            }}
          />
        </MomentOnChart>
      </div>
      <dl className="overflow-y-auto pt-1 text-[13px]" data-charge-up={result.exact ? 'exact' : 'envelope'}>
        {reached.map(({ fraction, seconds }) => (
          <Row key={fraction} name={`${Math.round(fraction * 100)} % after`}>
            {seconds === null ? 'not reached' : <Quantity value={seconds} unit="s" />}
          </Row>
        ))}
        <Row name="Surge from the source">
          {surge.limited ? <Quantity value={surge.sourceAmps} unit="A" /> : 'unknown: no resistance entered'}
        </Row>
        <Row name={`Surge in a diode (${surge.diode})`}>
          {surge.limited ? <Quantity value={surge.diodeAmps} unit="A" /> : 'unknown: no resistance entered'}
        </Row>
        {figuresInOrder(result.driver).map((id) => (
          <Row key={id} name={DRIVE_FIGURES[id].label}>
            <Quantity value={result.driver[id]!} unit={DRIVE_FIGURES[id].unit} />
          </Row>
        ))}
        {gap ? (
          <>
            <Row name="Gap strikes">
              {gap.strikesPerSecond === null ? (
                `${gap.strikes}`
              ) : (
                <>
                  <Quantity value={gap.strikesPerSecond} unit="Hz" />
                </>
              )}
            </Row>
            <Row name="Arc, at most">
              <Quantity value={gap.peakAmps} unit="A" />
            </Row>
          </>
        ) : null}
        {result.leastSeconds === null ? null : (
          <p className="mt-1 text-soft">
            At what drive or supply is limited to the energy takes <Quantity value={result.leastSeconds} unit="s" /> at
            least; this run does not hold it to that, nor the surge.
          </p>
        )}
        {result.driver.transistorPeakVolts === undefined ? null : (
          <p className="mt-1 text-soft">
            The driver runs as a circuit from dead, the supply at its full voltage at once and without its current
            limit.
          </p>
        )}
        {result.reason ? <p className="mt-1 text-soft">{result.reason}</p> : null}
        <p className="mt-1 text-soft">
          {result.exact ? 'Every period was run.' : 'Envelope: times are good to a tenth. '}
          {onExact ? (
            <button type="button" className="text-copper underline" onClick={onExact}>
              Run every period
            </button>
          ) : null}
        </p>
      </dl>
    </div>
  );
}

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between gap-2 border-b border-rule py-0.5">
      <dt className="text-soft">{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}
