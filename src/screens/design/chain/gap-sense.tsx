'use client';

import Zap from 'lucide-react/icons/zap';
import { useState } from 'react';
import { useAir, useAirGap } from '@/client/air-stores';
import { breakdownVolts, strikeMetres, workshopMetres, workshopVolts, type Workshop } from '@/core/load/air/air-gap';
import { rough } from '@/core/load/load-kind';
import { PopoverPanel } from '@/ui/popover-panel';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import { AirFields, OutsideLaw } from '../air-fields';
import { GapBetween } from '../gap-between';
import { BandLine } from './band-line';

/**
 * At which voltage a gap in air breaks down, and how far a voltage jumps.
 *
 * @param outputPeakVolts what stands at the output without load
 * @param onStrike takes what the gap strikes at, where the load is one
 */
export function GapSense({
  outputPeakVolts,
  onStrike,
}: {
  outputPeakVolts: number;
  onStrike: ((volts: number) => void) | null;
}) {
  return (
    <PopoverPanel icon={Zap} words={onStrike ? 'From the size of the gap…' : 'How far it jumps…'} label="Gap in air">
      <GapPanel outputPeakVolts={outputPeakVolts} onStrike={onStrike} />
    </PopoverPanel>
  );
}

function GapPanel({
  outputPeakVolts,
  onStrike,
}: {
  outputPeakVolts: number;
  onStrike: ((volts: number) => void) | null;
}) {
  const { settings: gap, change } = useAirGap();
  const { settings: air } = useAir();
  const [typed, setTyped] = useState<number | null>(null);
  const breakdown = breakdownVolts(gap, air);
  const peakVolts = typed ?? outputPeakVolts;
  const jump = strikeMetres(gap, peakVolts, air);
  return (
    <>
      <h2 className="mb-1 font-semibold">A gap in air</h2>
      <GapBetween outside={'at' in breakdown ? breakdown : null} />
      <QuantityField label="Gap" unit="m" value={gap.gapMetres} onValue={(value) => change({ gapMetres: value! })} />
      {'at' in breakdown && breakdown.at === 'gapMetres' ? <OutsideLaw reason={breakdown.reason} /> : null}
      <AirFields />
      <div className="mt-2 border-t border-rule pt-2">
        {'at' in breakdown ? (
          <p className="text-[13.5px] text-soft">No figure for this gap.</p>
        ) : (
          <>
            <BandLine name="Strikes at, peak" id="strikes" band={breakdown} unit="V" />
            <WorkshopLine rule={workshopVolts(gap.gapMetres, breakdown.likely)} unit="V" />
            {onStrike ? (
              <button
                type="button"
                className="font-medium text-copper hover:underline"
                onClick={() => onStrike(rough(breakdown.likely))}
              >
                Let the gap strike at that
              </button>
            ) : null}
          </>
        )}
      </div>
      <div className="mt-2 border-t border-rule pt-2">
        <QuantityField
          label="A peak of"
          unit="V"
          optional
          placeholder="the output’s"
          value={typed}
          onValue={(value) => {
            if (value !== null && value <= 0) return 'Must be a voltage above zero.';
            setTyped(value);
            return null;
          }}
        />
        {'at' in jump ? (
          jump.at === 'volts' ? (
            <p role="alert" className="text-xs text-over">
              <Quantity value={peakVolts} unit="V" /> {typed === null ? 'stands at the output without load. ' : ''}
              {jump.reason}
            </p>
          ) : null
        ) : (
          <>
            <BandLine
              name={typed === null ? 'The output, without load, jumps' : 'Jumps'}
              id="jumps"
              band={jump}
              unit="m"
            />
            <WorkshopLine rule={workshopMetres(peakVolts, jump.likely)} unit="m" />
          </>
        )}
      </div>
      <p className="mt-2 text-xs text-soft">
        The first spark, in still and clean air with nothing else near. Edges, dust, damp and sparks before it let it
        strike sooner and further: an estimate, never a measurement.
      </p>
    </>
  );
}

const TOO = { V: ['low', 'high'], m: ['near', 'far'] } as const;

/** What the rule of thumb says beside it, and how far off that is. */
function WorkshopLine({ rule: { figure, off }, unit }: { rule: Workshop; unit: 'V' | 'm' }) {
  return (
    <p className="py-[1.5px] text-[13px] text-soft" data-gap="workshop">
      A millimetre for each kilovolt says <Quantity value={figure} unit={unit} digits={3} />:{' '}
      <Quantity value={Math.abs(off)} unit="%" digits={2} /> too {TOO[unit][off > 0 ? 1 : 0]}.
    </p>
  );
}
