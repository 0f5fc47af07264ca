'use client';

import type { Chart } from 'chart.js';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Line } from 'react-chartjs-2';
import { MomentOnChart } from '@/climb/moment-on-chart';
import type { Player } from '@/climb/player';
import type { Design } from '@/core/design/design-schema';
import { LEAST_TOLD } from '@/core/output/discharge';
import type { Prediction } from '@/core/predict/prediction';
import { signedVolts } from '@/core/quantity/polarity';
import { engineeringScale, formatQuantity } from '@/core/quantity/format-quantity';
import type { Discharge } from '@/core/transient/discharge';
import { judgeDischarge } from '@/core/transient/discharge-resistor';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import type { TransientClient } from '@/worker/transient-client';
import { commonOptions, withMarks, type Colours } from '@/ui/chart-style';
import { useLatest } from '@/ui/use-latest';
import { FindingItem } from '../verdict/finding-item';
import { TimeDomainWaits } from './time-domain-waits';
import type { OnMoments } from '../use-motion';
import type { TimeDomain } from '../use-transient';

/** A discharging resistor that one would reach for, Ω, and how long one would hold it there, s (common practice, no source). */
const USUAL_OHMS = 1e6;
const USUAL_SECONDS = 2;

/** Lets a burst of keystrokes pass, ms. */
const PAUSE_MILLISECONDS = 60;

/** Fraction of its start under which the terminal counts as fallen, for the length of the chart. */
const FALLEN = 0.005;

function underSixty({ secondsTo60 }: Discharge): string {
  if (secondsTo60 === null) return 'Not under 60 V within this time.';
  return secondsTo60 === 0 ? 'Under 60 V from the start.' : `Under 60 V after ${formatQuantity(secondsTo60, 's', 2)}.`;
}

/** What is left after a discharge through a resistor with the drive off; never a promise that nothing is. */
export function DischargeChart({
  design,
  prediction,
  timeDomain,
  client,
  colours,
  player,
  onMoments,
}: {
  design: Design;
  prediction: Prediction;
  timeDomain: TimeDomain;
  client: TransientClient;
  colours: Colours;
  player: Player;
  onMoments: OnMoments;
}) {
  const [ohms, setOhms] = useState(USUAL_OHMS);
  const [seconds, setSeconds] = useState(USUAL_SECONDS);
  const [absorption, setAbsorption] = useState(0.01);
  const nodes = timeDomain.kind === 'ready' ? timeDomain.run.transient.nodes : null;
  const job = useMemo(
    () =>
      nodes && {
        run: () =>
          client.discharge(design, new Map(nodes.map((node) => [node.id, node.meanVolts])), {
            ohms,
            seconds,
            absorption,
          }),
      },
    [design, nodes, ohms, seconds, absorption, client],
  );
  const [run] = useLatest(job, PAUSE_MILLISECONDS);
  const latest = run.kind === 'ready' ? run.result : null;
  // What was found before stays on screen while a field is changed: it is replaced at once.
  const [shown, setShown] = useState<{ of: typeof nodes; result: Discharge } | null>(null);
  if (latest && shown?.result !== latest) setShown({ of: nodes, result: latest });
  const result = latest ?? (shown?.of === nodes ? shown.result : null);
  const chart = useRef<Chart<'line'> | null>(null);
  useEffect(() => {
    onMoments('discharge', result?.moments ?? null);
    return () => onMoments('discharge', null);
  }, [onMoments, result]);
  if (run.kind === 'failed') return <p className="px-1 py-6 text-over">The discharge failed: {run.reason}</p>;
  if (!nodes || !result) return <TimeDomainWaits timeDomain={timeDomain} />;
  const { polarity } = prediction.output;
  const remaining = (volts: number, signed = volts) =>
    volts < LEAST_TOLD.V ? 'under 1 V' : formatQuantity(signed, 'V');
  const say = (volts: number) => remaining(volts, signedVolts(volts, polarity));
  // What falls within a moment is shown within a moment.
  const fallen = result.samples.find((sample) => sample.volts < FALLEN * result.samples[0].volts);
  const shownSeconds = Math.min(seconds, 2 * (fallen?.seconds || seconds));
  const time = engineeringScale(shownSeconds, 's');
  const volts = engineeringScale(Math.max(...result.samples.map((sample) => sample.volts), 1e-9), 'V');
  const options = commonOptions(colours, `time after switch-off, ${time.name}`, `terminal, ${volts.name}`);
  options.plugins!.tooltip!.callbacks = {
    title: (items) => formatQuantity(items[0].parsed.x! * time.per, 's'),
    label: (item) => say(item.parsed.y! * volts.per),
  };
  options.scales!.x! = { ...options.scales!.x!, max: shownSeconds / time.per } as never;
  withMarks(options, {
    level: { words: '60 V', y: 60 / volts.per, colour: colours.over, side: 'right', below: false },
    point: null,
  });
  const judged = judgeDischarge(result, ohms, design.ladder.diode.surgeAmps);
  const most = result.capacitors.reduce((a, b) => (Math.abs(b.volts) > Math.abs(a.volts) ? b : a));
  const positive = (set: (value: number) => void, right: string) => (value: number | null) => {
    if (value === null || !(value > 0 && value < 1e15)) return right;
    set(value);
    return null;
  };
  return (
    <div className="grid h-full gap-3 overflow-y-auto sm:grid-cols-[minmax(0,1fr)_17rem] sm:overflow-visible">
      <div className="h-40 min-h-0 min-w-0 sm:h-auto">
        <MomentOnChart player={player} kind="discharge" chart={chart} secondsPer={time.per}>
          <Line
            ref={(line) => {
              chart.current = line ?? null;
            }}
            role="img"
            aria-label={`Discharge through ${formatQuantity(ohms, 'Ω')}: terminal against time after switch-off`}
            options={options}
            data={{
              datasets: [
                {
                  data: result.samples
                    .filter((sample) => sample.seconds <= shownSeconds)
                    .map((sample) => ({ x: sample.seconds / time.per, y: sample.volts / volts.per })),
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
      <div className="overflow-y-auto pt-1 text-[13px]">
        <QuantityField
          label="Discharge resistor"
          printed
          unit="Ω"
          value={ohms}
          onValue={positive(setOhms, 'A resistance above zero.')}
        />
        <QuantityField label="Duration" unit="s" value={seconds} onValue={positive(setSeconds, 'A time above zero.')} />
        <QuantityField
          label="Dielectric absorption"
          unit="%"
          value={absorption}
          onValue={(value) => {
            if (value === null || !(value >= 0 && value < 1)) return 'A share from 0 to 100 %.';
            setAbsorption(value);
            return null;
          }}
        />
        <p className="mt-1" data-discharge="left">
          {underSixty(result)} Diodes carry up to <Quantity value={result.diodePeakAmps} unit="A" /> meanwhile. Left
          then: {remaining(Math.abs(most.volts))} in {most.id},{' '}
          {result.joules.end < LEAST_TOLD.J ? 'under 1 µJ' : <Quantity value={result.joules.end} unit="J" />} of{' '}
          <Quantity value={result.joules.start} unit="J" />; the terminal may come back to {say(result.reboundVolts)}.
          Measure the terminal and every capacitor.
        </p>
        <p className="mt-1" data-discharge="resistor">
          The resistor begins at <Quantity value={judged.volts} unit="V" />, <Quantity value={judged.amps} unit="A" />{' '}
          and <Quantity value={judged.watts} unit="W" /> and takes{' '}
          {judged.joules < LEAST_TOLD.J ? 'under 1 µJ' : <Quantity value={judged.joules} unit="J" />} in all.
        </p>
        <ul>
          {judged.findings.map(({ code, severity, message }) => (
            <FindingItem key={code} finding={{ code, severity, message, advice: '', where: '' }} />
          ))}
        </ul>
      </div>
    </div>
  );
}
