'use client';

import X from 'lucide-react/icons/x';
import type { ReactNode } from 'react';
import type { DraftKind } from '@/core/bench/draft';
import { partStory } from '@/core/predict/part-story';
import type { CapacitorPrediction, DiodePrediction, Prediction } from '@/core/predict/prediction';
import type { Transient } from '@/core/transient/transient';
import { amplitudeVolts } from '@/core/drive/drive';
import { CHOSEN_MARGIN, fitOf, ratingsWanted } from '@/core/quantity/margin';
import { buttonStyle } from '@/ui/button';
import { FitMark } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';

/** The part chosen in the Climb: stress, rating, margin, what it does, what happens if it fails. */
export function PartPanel({
  prediction,
  transient,
  peaksSpread,
  id,
  onClose,
  onRecord,
  faults,
  fault,
}: {
  prediction: Prediction;
  /** The settled time domain, when it is there. */
  transient: Transient | null;
  /** How far the drive's peaks may be off, as a part. */
  peaksSpread: number;
  id: string;
  onClose: () => void;
  /** Goes to the bench, to record what was read of it or that it failed. */
  onRecord: (kind: DraftKind) => void;
  /** Where a fault of it is put into the picture. */
  faults: ReactNode;
  /** Whether a fault is in this part or in another, whose figures are then shown; null for a sound ladder. */
  fault: 'here' | 'elsewhere' | null;
}) {
  const story = partStory(prediction, id);
  if (!story) return null;
  const { part, kind } = story;
  const fit = fitOf(part.margin);
  const volts =
    kind === 'capacitor' ? (part as CapacitorPrediction).workingVolts : (part as DiodePrediction).reverseVolts;
  const wanted = ratingsWanted(volts, amplitudeVolts(prediction.drive), peaksSpread);
  return (
    <section aria-label={`Part ${id}`} className="relative border-t border-rule bg-sheet px-4 py-2.5 text-[13px]">
      <p className="flex flex-wrap items-center gap-x-3 gap-y-0.5 pr-8">
        <strong className="text-sm font-semibold">
          {kind === 'capacitor' ? 'Capacitor' : 'Diode'} {id}
        </strong>
        {fault === 'here' ? (
          <span className="text-soft">has the fault: its own ratings say nothing now</span>
        ) : (
          <>
            <span>
              <span className="text-soft">{kind === 'capacitor' ? 'works at' : 'blocks up to'}</span>{' '}
              <Quantity value={volts} unit="V" />
              {part.ratedVolts === null ? null : (
                <>
                  , <span className="text-soft">rated</span> <Quantity value={part.ratedVolts} unit="V" />
                </>
              )}
            </span>
            {prediction.places[kind].series > 1 ? (
              <span className="text-soft">
                {prediction.places[kind].series} in series, the worse placed up to{' '}
                <Quantity value={volts * prediction.places[kind].worstShare} unit="V" />
              </span>
            ) : null}
            <span className="inline-flex items-center gap-1">
              <FitMark fit={fit} /> {fit}
              {part.margin === null ? null : (
                <>
                  , margin <Quantity value={part.margin} unit="%" digits={2} />
                </>
              )}
            </span>
            {kind === 'capacitor' ? (
              <CapacitorFigures part={part as CapacitorPrediction} />
            ) : (
              <DiodeFigures part={part as DiodePrediction} />
            )}
            {transient ? <TimeDomainFigures transient={transient} id={id} /> : null}
          </>
        )}
      </p>
      {fault ? null : (
        <>
          <p className="mt-0.5 text-soft">
            For a margin of <Quantity value={CHOSEN_MARGIN} unit="%" digits={2} /> it takes{' '}
            <Quantity value={wanted.usual} unit="V" />; the cautious rule, three times the drive’s peak, takes{' '}
            <Quantity value={wanted.cautious} unit="V" />. With the drive as high as its spread it comes to{' '}
            <Quantity value={wanted.driveHigh} unit="V" />.
          </p>
          <p className="mt-0.5 text-soft">
            {story.does} <span className="text-ink">If it fails:</span> {story.whenItFails}
          </p>
        </>
      )}
      <div className="no-print mt-0.5 flex flex-wrap items-center gap-x-4 gap-y-1">
        {faults}
        <span>
          <button
            type="button"
            className="text-copper hover:underline"
            onClick={() => onRecord(kind === 'capacitor' ? 'capacitance' : 'drop')}
          >
            Record a reading
          </button>
          ,{' '}
          <button type="button" className="text-copper hover:underline" onClick={() => onRecord('failure')}>
            or that it failed
          </button>
        </span>
      </div>
      <button
        type="button"
        aria-label="Close the part"
        className={`${buttonStyle('quiet')} absolute top-1.5 right-1.5`}
        onClick={onClose}
      >
        <X className="size-4" aria-hidden="true" />
      </button>
    </section>
  );
}

function CapacitorFigures({ part }: { part: CapacitorPrediction }) {
  const { farads, biasedFarads, loadedMeanVolts, rmsAmps, lossWatts, temperatureRiseKelvin } = part;
  return (
    <>
      {biasedFarads < farads ? (
        <span>
          <Quantity value={biasedFarads} unit="F" /> <span className="text-soft">left of</span>{' '}
          <Quantity value={farads} unit="F" />
        </span>
      ) : null}
      <span>
        <span className="text-soft">mean at the load</span> <Quantity value={loadedMeanVolts} unit="V" />
      </span>
      <span>
        <span className="text-soft">carries</span> <Quantity value={rmsAmps} unit="A" />{' '}
        <span className="text-soft">RMS</span>
      </span>
      {lossWatts === null ? null : (
        <span>
          <span className="text-soft">heats by</span> <Quantity value={lossWatts} unit="W" digits={2} />
          {temperatureRiseKelvin === null ? null : (
            <>
              , <span className="text-soft">about</span> <Quantity value={temperatureRiseKelvin} unit="K" digits={2} />
            </>
          )}
        </span>
      )}
    </>
  );
}

function DiodeFigures({ part: { averageAmps, rmsAmps, watts, recoveryWatts } }: { part: DiodePrediction }) {
  return (
    <>
      <span>
        <span className="text-soft">average</span> <Quantity value={averageAmps} unit="A" />,{' '}
        <Quantity value={rmsAmps} unit="A" /> <span className="text-soft">RMS</span>
      </span>
      <span>
        <span className="text-soft">each heats by</span> <Quantity value={watts} unit="W" digits={2} />
        {recoveryWatts ? (
          <>
            , <span className="text-soft">of it recovery up to about</span>{' '}
            <Quantity value={recoveryWatts} unit="W" digits={2} />
          </>
        ) : null}
      </span>
    </>
  );
}

/** What the time domain says of one part. */
function TimeDomainFigures({ transient, id }: { transient: Transient; id: string }) {
  const capacitor = transient.capacitors.find((part) => part.id === id);
  const diode = transient.diodes.find((part) => part.id === id);
  return (
    <span data-part-in-time={id}>
      <span className="text-soft">time domain:</span>{' '}
      {capacitor ? (
        <>
          <Quantity value={capacitor.meanVolts} unit="V" /> <span className="text-soft">mean,</span>{' '}
          <Quantity value={capacitor.ripplePeakToPeakVolts} unit="V" /> <span className="text-soft">p-p,</span>{' '}
          <Quantity value={capacitor.rmsAmps} unit="A" /> <span className="text-soft">RMS</span>
        </>
      ) : null}
      {diode ? (
        <>
          <Quantity value={diode.peakAmps} unit="A" /> <span className="text-soft">peak,</span>{' '}
          <Quantity value={diode.rmsAmps} unit="A" /> <span className="text-soft">RMS, blocks</span>{' '}
          <Quantity value={diode.reverseVolts} unit="V" />
          <span className="text-soft">, heats by</span> <Quantity value={diode.watts} unit="W" />
        </>
      ) : null}
    </span>
  );
}
