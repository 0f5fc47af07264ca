'use client';

import { format } from 'date-fns';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { isExplained, type Candidate, type Fit, type FitReading, type NoFit } from '@/core/bench/fit';
import { takenInto, withFitted } from '@/core/bench/fit-to-design';
import { UNKNOWN_INFO, unknownsOf, type UnknownId } from '@/core/bench/fit-model';
import type { Design } from '@/core/design/design-schema';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { buttonStyle } from '@/ui/button';
import { CheckField } from '@/ui/check-field';
import { Quantity } from '@/ui/quantity';
import { useLatest } from '@/ui/use-latest';
import type { TransientClient } from '@/worker/transient-client';
import type { EditorStore } from '../saving/editor-store';
import { sentence } from '@/core/quantity/sentence';

const USUAL: readonly UnknownId[] = ['forward'];
const PAUSE_MILLISECONDS = 200;

/** What the readings of a session tell of the ladder, and how that becomes part of the design. */
export function FitPanel({
  design,
  readings,
  client,
  store,
  isPresent,
  isHeld,
}: {
  design: Design;
  readings: readonly FitReading[];
  client: TransientClient;
  store: EditorStore;
  /** Whether the readings are of the revision on screen: what they tell goes into no other. */
  isPresent: boolean;
  /** Whether it is to wait for what is computed first. */
  isHeld: boolean;
}) {
  const [chosen, setIds] = useState<readonly UnknownId[]>(USUAL);
  const offered = unknownsOf(design, readings);
  const ids = offered.filter((id) => chosen.includes(id));
  if (readings.length === 0) return null;
  return (
    <>
      <fieldset className="no-print grid max-w-2xl gap-x-10 sm:grid-cols-2">
        <legend className="text-[13.5px] text-soft">Unknowns</legend>
        {offered.map((id) => (
          <CheckField
            key={id}
            label={UNKNOWN_INFO[id].name}
            checked={ids.includes(id)}
            onChecked={(on) => setIds(offered.filter((one) => (one === id ? on : ids.includes(one))))}
          />
        ))}
      </fieldset>
      {ids.length === 0 ? (
        <p className="text-[13.5px] text-soft">Choose what the readings are to tell.</p>
      ) : readings.length < ids.length ? (
        <p className="text-[13.5px] text-soft" data-bench="too-few">
          {readings.length} {readings.length === 1 ? 'reading counts' : 'readings count'} here: at least {ids.length}{' '}
          are needed for this many unknowns, more to see whether they fit.
        </p>
      ) : (
        <Fitting
          design={design}
          readings={readings}
          ids={ids}
          client={client}
          store={store}
          isPresent={isPresent}
          isHeld={isHeld}
        />
      )}
    </>
  );
}

function Fitting({
  design,
  readings,
  ids,
  client,
  store,
  isPresent,
  isHeld,
}: {
  design: Design;
  readings: readonly FitReading[];
  ids: readonly UnknownId[];
  client: TransientClient;
  store: EditorStore;
  isPresent: boolean;
  isHeld: boolean;
}) {
  const job = useMemo(
    () =>
      isHeld
        ? null
        : {
            run: (report: (fraction: number) => void) => client.fit(design, readings, ids, report),
            cancel: () => client.cancel('fit'),
          },
    [design, readings, ids, client, isHeld],
  );
  const [latest] = useLatest<Fit | NoFit, number>(job, PAUSE_MILLISECONDS);
  if (latest.kind === 'failed') return <p className="text-over">The fit failed: {latest.reason}</p>;
  if (latest.kind !== 'ready')
    return (
      <p className="text-[13.5px] text-soft" role="status">
        {isHeld
          ? 'Begins once the search for what may be wrong is over.'
          : `Fitting, ${Math.round(100 * (latest.progress ?? 0))} %`}
      </p>
    );
  const { result } = latest;
  if ('why' in result)
    return (
      <p className="text-[13.5px] text-soft">
        {result.why === 'too few'
          ? 'There are fewer readings than unknowns.'
          : result.why === 'other sign'
            ? 'A reading has the other sign than the ladder: no value of these unknowns explains that. Look at leads and diodes first.'
            : 'The closed form has no figure for this test: the meter takes too much, or the drops do.'}
      </p>
    );
  const taken = takenInto(design, readings, result);
  return (
    <div aria-live="polite">
      <FitTable fit={result} />
      <Residuals fit={result} />
      <FitWords fit={result} />
      {taken.length > 0 ? (
        <p className="no-print mt-2">
          <button
            type="button"
            className={buttonStyle('plain')}
            disabled={!isPresent}
            onClick={() => {
              store.getState().replace(withFitted(store.getState().design, taken, format(new Date(), 'd MMM yyyy')));
              toast(`The design counts with what was read now; undo brings back what stood.`);
            }}
          >
            Take {taken.length === 1 ? 'it' : 'them'} into the design
          </button>
          {isPresent ? null : (
            <span className="ml-2 text-[13px] text-soft">
              The readings are of another revision than the one on screen.
            </span>
          )}
        </p>
      ) : null}
    </div>
  );
}

function FitTable({ fit: { fitted, alike } }: { fit: Fit }) {
  return (
    <table className="mt-1 w-full max-w-2xl text-left text-[13px]" aria-label="Fit to the readings">
      <thead className="text-soft">
        <tr className="border-b border-rule align-bottom">
          <th className="py-1 pr-3 font-normal">Unknown</th>
          <th className="py-1 pr-3 text-right font-normal">Stated</th>
          <th className="py-1 pr-3 text-right font-normal">Fitted</th>
          <th className="py-1 text-right font-normal">90 % interval</th>
        </tr>
      </thead>
      <tbody>
        {fitted.map(({ id, stated, value, low, high, isCut }) => (
          <tr key={id} data-fitted={id} className="border-b border-rule align-baseline">
            <th scope="row" className="py-1 pr-3 font-normal">
              {UNKNOWN_INFO[id].name}
            </th>
            <td className="py-1 pr-3 text-right">
              <Quantity value={stated} unit={UNKNOWN_INFO[id].unit} />
            </td>
            <td
              className={`py-1 pr-3 text-right ${alike?.ids.includes(id) ? 'text-soft' : 'text-[14.5px] font-semibold'}`}
            >
              <Quantity value={value} unit={UNKNOWN_INFO[id].unit} />
            </td>
            <td className="py-1 text-right">
              {alike?.ids.includes(id) ? (
                <span className="text-soft">not determined</span>
              ) : (
                <>
                  <Quantity value={low} unit={UNKNOWN_INFO[id].unit} /> to{' '}
                  <Quantity value={high} unit={UNKNOWN_INFO[id].unit} />
                  {isCut ? <span className="block text-close">or beyond: the fit goes no further</span> : null}
                </>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Of a bar's half-width, for one standard deviation. */
const BAR = 20;
const MOST_SIGMAS = 100 / BAR / 2;

/** How far each reading is from the fit, in standard deviations of the meter. */
function Residuals({ fit: { residuals } }: { fit: Fit }) {
  return (
    <ul aria-label="Residuals" className="mt-2 grid max-w-2xl gap-0.5 text-[13px]">
      {residuals.map(({ at, read, volts, sigma }, index) => {
        const away = (read - volts) / sigma;
        const drawn = BAR * Math.min(MOST_SIGMAS, Math.abs(away));
        return (
          <li key={index} className="grid grid-cols-[9rem_minmax(0,1fr)_5.5rem] items-center gap-2">
            <span className="truncate">{at}</span>
            <span className="relative block h-3 border-x border-rule bg-tint" aria-hidden="true">
              <span className="absolute inset-y-0 left-1/2 w-px bg-line" />
              <span
                className={`absolute inset-y-[3px] ${Math.abs(away) > MOST_SIGMAS ? 'bg-over' : 'bg-copper'}`}
                style={{ width: `${drawn}%`, left: away < 0 ? `${50 - drawn}%` : '50%' }}
              />
            </span>
            <span className="text-right">
              <Quantity value={away} unit="" digits={2} plus /> <span className="text-soft">σ</span>
            </span>
          </li>
        );
      })}
    </ul>
  );
}

/** How well it fits, and what cannot be told. */
function FitWords({ fit: { residuals, chiSquared, freedom, alike, isTimed } }: { fit: Fit }) {
  const furthest = residuals.reduce((most, one) =>
    Math.abs(one.read - one.volts) / one.sigma > Math.abs(most.read - most.volts) / most.sigma ? one : most,
  );
  return (
    <div className="mt-2 grid max-w-[75ch] gap-1 text-[13.5px]">
      {freedom === 0 ? (
        <p>As many unknowns as readings: they fit whatever they are. One more reading would show whether this is so.</p>
      ) : (
        <p data-bench="left">
          Residual: {formatQuantity(Math.sqrt(chiSquared / freedom), '', 2)} times the meter’s own uncertainty; most at{' '}
          {furthest.at}, {formatQuantity(furthest.read, 'V', 4)} read and {formatQuantity(furthest.volts, 'V', 4)}{' '}
          fitted.
          {isExplained({ chiSquared, freedom })
            ? ''
            : ' That is too much: something else is wrong, and these values are no measure of it.'}
        </p>
      )}
      {alike ? (
        <p className="border-l-[3px] border-close pl-2.5" data-bench="alike">
          <strong className="font-semibold">{alike.ids.length > 1 ? 'Cannot be told apart' : 'Not determined'}.</strong>{' '}
          {sentence(alike.ids.map((id) => UNKNOWN_INFO[id].words).join(' and '))}
          {alike.ids.length > 1 ? ' move these readings in the same way' : ' hardly moves these readings'}.{' '}
          {alike.wouldTell ? `Most would be told by ${candidateWords(alike.wouldTell)}.` : aloneWords(alike.ids)}
        </p>
      ) : null}
      {isTimed ? null : (
        <p className="text-soft">
          {residuals.some(({ isStep }) => isStep)
            ? 'The steps by the closed form, taps by the time domain.'
            : 'By the closed form alone: the time domain found no steady state.'}
        </p>
      )}
    </div>
  );
}

function candidateWords(candidate: Candidate): string {
  switch (candidate.kind) {
    case 'step':
      return `a reading of the output at ${formatQuantity(candidate.fraction, '%')} of the drive`;
    case 'tap':
      return `a reading at ${candidate.node}`;
    case 'hertz':
      return `a reading at ${candidate.node} with the source at ${formatQuantity(candidate.hertz, 'Hz', 2)}`;
    case 'volts':
      return `a reading at ${candidate.node} with the source at ${formatQuantity(candidate.rmsVolts, 'V', 2)} RMS`;
    case 'probe':
      return `a reading at ${candidate.node} through ${formatQuantity(candidate.ohms, 'Ω', 2)}`;
  }
}

const ALONE: Record<UnknownId, string> = {
  source: 'the source’s peak by another instrument',
  ohms: 'the source with and without a known load',
  hertz: 'the frequency by a counter',
  secondary: 'where the secondary rings by itself',
  forward: 'a diode’s drop out of circuit',
  farads: 'a capacitor out of circuit',
  strays: 'the capacitance of a node against ground, everything off',
  leak: 'a capacitor’s leakage out of circuit, at its working voltage',
  meter: 'the meter’s resistance with another meter',
  load: 'the load’s current by a meter in its foot',
};
const aloneWords = (ids: readonly UnknownId[]): string =>
  `No other reading of this kind tells them: measure ${ids.map((id) => ALONE[id]).join(' or ')}.`;
