'use client';

import Flame from 'lucide-react/icons/flame';
import { useMemo } from 'react';
import { useAir, useClimbingArc } from '@/client/air-stores';
import type { Design } from '@/core/design/design-schema';
import {
  climbing,
  LEAST_ARC_AMPS,
  longestArc,
  type ClimbingArc,
  type LongestArc,
  type NoArc,
} from '@/core/load/air/climbing-arc';
import { supplyLine } from '@/core/predict/curves';
import type { Prediction } from '@/core/predict/prediction';
import { PopoverPanel } from '@/ui/popover-panel';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import { AirFields, OutsideLaw } from '../air-fields';
import { BandLine } from './band-line';

type Props = { design: Design; prediction: Prediction };

/** How long an arc this output keeps, and how it climbs between two rods. */
export function ArcSense(props: Props) {
  return (
    <PopoverPanel icon={Flame} words="How long an arc it keeps…" label="Climbing arc">
      <ArcPanel {...props} />
    </PopoverPanel>
  );
}

const ENTRIES = [
  ['rodMetres', 'Rods, diameter'],
  ['startGapMetres', 'Apart where nearest'],
  ['topGapMetres', 'Apart at the top'],
] as const satisfies (readonly [keyof ClimbingArc, string])[];

const STARTS = { yes: 'starts of itself', perhaps: 'may start', no: 'does not start: bring them nearer' } as const;

function ArcPanel({ design, prediction }: Props) {
  const { settings: rods, change } = useClimbingArc();
  const { settings: air } = useAir();
  const longest = useMemo(() => longestArc(supplyLine(design)), [design]);
  const { startVolts, starts, outMetres, stays, topFault } = climbing(
    rods,
    prediction.output.noLoadPeakVolts,
    longest,
    air,
  );
  const start = 'at' in startVolts ? null : startVolts;
  const faultAt = { rodMetres: 'rodMetres', startGapMetres: 'gapMetres', topGapMetres: null } as const;
  return (
    <>
      <h2 className="mb-1 font-semibold">An arc that climbs between two rods</h2>
      {ENTRIES.map(([name, label]) => (
        <div key={name}>
          <QuantityField label={label} unit="m" value={rods[name]} onValue={(value) => change({ [name]: value! })} />
          {'at' in startVolts && startVolts.at === faultAt[name] ? <OutsideLaw reason={startVolts.reason} /> : null}
          {name === 'topGapMetres' && topFault ? <OutsideLaw reason={topFault} /> : null}
        </div>
      ))}
      <AirFields />
      <div className="mt-2 border-t border-rule pt-2">
        {start ? <BandLine name="Starts from, peak" id="start" band={start} unit="V" /> : null}
        {starts ? (
          <p className="text-[13px] text-soft" data-arc="starts">
            The output’s <Quantity value={prediction.output.noLoadPeakVolts} unit="V" /> peak without load:{' '}
            {STARTS[starts]}.
          </p>
        ) : null}
      </div>
      <div className="mt-2 border-t border-rule pt-2">
        <Kept longest={longest} />
        {outMetres ? <BandLine name="Goes out at a gap of" id="out" band={outMetres} unit="m" /> : null}
        {stays === 'yes' ? (
          <p className="text-[13px] text-over" data-arc="stays">
            It gets to the top and stays there, and heats the rods’ ends: let them stand further apart there.
          </p>
        ) : null}
      </div>
      <p className="mt-2 text-xs text-soft">
        Voltage starts an arc, current keeps it. To a supply an arc is a short that stays: parts and series resistor
        carry its current all the time, and it gives off ultraviolet light, ozone and nitrogen oxides. An estimate,
        never a measurement.
      </p>
    </>
  );
}

function Kept({ longest }: { longest: LongestArc | NoArc }) {
  if ('why' in longest)
    return (
      <p className="text-[13.5px]" data-arc="none">
        {longest.why === 'unknown' ? (
          'No figure: the closed form does not know what this output gives at a load.'
        ) : longest.why === 'current' ? (
          <>
            Keeps none: the closed form gives at most <Quantity value={longest.mostAmps} unit="A" /> here, and under
            some <Quantity value={LEAST_ARC_AMPS} unit="A" /> an arc goes out as it grows longer. What comes are sparks,
            one after another as the charge behind them is made up.
          </>
        ) : longest.why === 'law' ? (
          <>
            No figure: an arc of <Quantity value={longest.leastAmps} unit="A" /> is past Ayrton’s law.
          </>
        ) : (
          'Keeps none: at a current that would keep it no voltage is left.'
        )}
      </p>
    );
  const { metres, amps, volts, watts, by, atEnd } = longest;
  return (
    <>
      <BandLine name="Longest that it keeps" id="longest" band={metres} unit="m" />
      <p className="text-[13px] text-soft" data-arc="point">
        At <Quantity value={volts} unit="V" /> and <Quantity value={amps} unit="A" digits={3} />,{' '}
        <Quantity value={watts} unit="W" /> in the arc;{' '}
        {by === 'Ayrton' ? 'by Ayrton’s law' : 'common practice for thin arcs, no source'}.
        {atEnd ? ' The closed form ends there: it may keep a longer one.' : ''}
      </p>
    </>
  );
}
