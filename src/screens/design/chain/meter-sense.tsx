'use client';

import Gauge from 'lucide-react/icons/gauge';
import { useState } from 'react';
import { useMeter } from '@/client/meter-store';
import { scaledDrive, type Drive } from '@/core/drive/drive';
import { meterReadings, meterView, timesForReading } from '@/core/drive/meter-sense';
import { PopoverPanel } from '@/ui/popover-panel';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import { MeterFields } from '../meter-fields';
import { FindingItem } from '../verdict/finding-item';

/**
 * What one's own meter shows of a waveform, and the way back from a reading to
 * peaks.
 *
 * @param drive the waveform where the reading is taken; its height is what the
 *   reading is to tell
 * @param onTimes takes how many times the height must be what it is
 */
export function MeterSense({ drive, onTimes }: { drive: Drive; onTimes: (times: number) => void }) {
  return (
    <PopoverPanel icon={Gauge} words="Read with a meter…" label="Meter">
      <MeterPanel drive={drive} onTimes={onTimes} />
    </PopoverPanel>
  );
}

function MeterPanel({ drive, onTimes }: { drive: Drive; onTimes: (times: number) => void }) {
  const { settings: meter } = useMeter();
  const [typed, setTyped] = useState<number | null>(null);
  const view = meterView(drive, meter);
  const times = typed === null ? null : timesForReading(drive, meter, typed);
  // With a reading typed, what is said is of the voltage it stands for.
  const read = times === null ? drive : scaledDrive({ ...drive, collapsingPeak: 'both' }, times);
  const readings = meterReadings(read);
  const { findings } = times === null ? view : meterView(read, meter);
  return (
    <>
      <h2 className="mb-1 font-semibold">Your meter</h2>
      <MeterFields />
      <div className="mt-2 border-t border-rule pt-2">
        <div className="flex items-baseline justify-between gap-2 py-[3px]">
          <span className="text-[13.5px] text-soft">As the design stands it would show</span>
          <span data-meter="would-show">
            <Quantity value={view.shownVolts} unit="V" digits={4} />
          </span>
        </div>
        <QuantityField
          label="It shows"
          unit="V"
          optional
          placeholder="reading"
          value={typed}
          onValue={(value) => {
            if (value !== null && value <= 0) return 'Must be a reading above zero.';
            setTyped(value);
            return null;
          }}
        />
        {times === null ? (
          typed === null ? null : (
            <p role="alert" className="text-xs text-over">
              Such a meter shows nothing of this waveform. Use an ac or a peak-reading range.
            </p>
          )
        ) : (
          <div className="flex items-baseline justify-between gap-2 py-[3px]">
            <span data-meter="peaks">
              <span className="text-soft">Peaks then </span>
              <Quantity value={drive.positivePeakVolts * times} unit="V" digits={4} />
              <span className="text-soft"> and </span>−
              <Quantity value={drive.negativePeakVolts * times} unit="V" digits={4} />
            </span>
            <button
              type="button"
              className="font-medium text-copper hover:underline"
              onClick={() => {
                onTimes(times);
                setTyped(null);
              }}
            >
              Use them
            </button>
          </div>
        )}
        <dl aria-label="What meters show" className="mt-1 text-[13px]">
          {(
            [
              ['A true-RMS meter, fast enough', readings.trueRmsVolts],
              ['An average-responding one', readings.averageRespondingVolts],
              ['A peak-reading one', readings.positivePeakVolts],
              ['A dc range', readings.meanVolts],
            ] as const
          ).map(([name, volts]) => (
            <div key={name} className="flex items-baseline justify-between gap-2 py-[1.5px]">
              <dt className="text-soft">{name}</dt>
              <dd>
                <Quantity value={Math.abs(volts) < 1e-6 * drive.positivePeakVolts ? 0 : volts} unit="V" digits={4} />
              </dd>
            </div>
          ))}
        </dl>
        {findings.length === 0 ? null : (
          <ul aria-label="What is wrong with the reading" className="mt-2 grid gap-2">
            {findings.map((finding) => (
              <FindingItem key={finding.code} finding={finding} />
            ))}
          </ul>
        )}
      </div>
    </>
  );
}
