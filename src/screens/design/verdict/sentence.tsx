import type { Design } from '@/core/design/design-schema';
import { isSilent } from '@/core/drive/drive';
import { isStarved } from '@/core/operating/ladder-inputs';
import type { Prediction } from '@/core/predict/prediction';
import { reachedBy } from '@/core/predict/reached';
import { targetOutcome, voltsFor } from '@/core/predict/target';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { signedVolts } from '@/core/quantity/polarity';
import type { Unit } from '@/core/quantity/units';
import { alternatingInTime, overInTimeDomain } from '@/core/transient/comparison';
import type { Transient } from '@/core/transient/transient';
import type { TimeDomain } from '../use-transient';

type SentenceProps = { design: Design; prediction: Prediction; timeDomain: TimeDomain };

/** Whether the target is met, in one sentence. */
export function Sentence({ design, prediction, timeDomain }: SentenceProps) {
  const { output, target } = prediction;
  const wanted = design.target;
  const signed = (volts: number, significant = 3) =>
    formatQuantity(signedVolts(volts, output.polarity), 'V', significant);
  const style = 'text-[17px] leading-snug font-semibold tracking-tight';
  if (isSilent(prediction.drive))
    return (
      <h2 className={style}>
        <span className="text-over">No output:</span> the driver gives nothing; the reason is given below.
      </h2>
    );
  if (output.alternating)
    return (
      <h2 className={style}>
        {isStarved(design.transformer, design.ladder.topology) ? (
          <>
            <span className="text-over">Not alternating:</span> the rectifier inside the transformer hands on one
            polarity.
          </>
        ) : (
          <Alternating design={design} prediction={prediction} timeDomain={timeDomain} />
        )}
      </h2>
    );
  if (isStarved(design.transformer, design.ladder.topology))
    return (
      <h2 className={style}>
        <span className="text-over">Nothing climbs:</span> the rectifier inside the transformer hands on one polarity,
        and a ladder needs both.
        {output.noLoadVolts > 0 ? (
          <> What arrives, {signed(output.noLoadVolts)} without load, is its own peak.</>
        ) : null}
      </h2>
    );
  if (output.noLoadVolts === 0)
    return (
      <h2 className={style}>
        <span className="text-over">Nothing climbs:</span> no output even without load; the reason is given below.
      </h2>
    );
  const settled = timeDomain.kind === 'ready' && timeDomain.run.transient.converged ? timeDomain.run.transient : null;
  // A driver run as a circuit finds for itself what it can keep up; a drive alone does not.
  if (output.meanVolts === null && prediction.source.driveScale < 1 && settled?.driver.kind !== 'circuit')
    return (
      <h2 className={style}>
        <span className="text-over">No figure:</span> the drive cannot carry this load.
      </h2>
    );
  if (output.meanVolts === null && settled) {
    const { meanVolts, amps } = settled;
    const reaches = reachesTarget(design, settled);
    return (
      <h2 className={style}>
        The time domain gives{' '}
        <span className={reaches === null ? 'text-copper' : reaches ? 'text-fits' : 'text-over'}>
          {signed(meanVolts)}
        </span>{' '}
        at {formatQuantity(amps, 'A')}
        {reaches === null ? '' : reaches ? ', which reaches the target' : `, short of ${signed(wanted!.volts)}`}. The
        closed form has no figure here.
      </h2>
    );
  }
  if (output.meanVolts === null)
    return (
      <h2 className={style}>
        <span className="text-over">No figure:</span> the closed form has none for this drive and load.
      </h2>
    );
  const reached = voltsFor(wanted ?? { of: 'mean' }, reachedBy(output))!;
  const digits = wanted ? digitsApart(reached, wanted.volts, 'V') : 3;
  const reaches = `${signed(reached, digits)}${wanted && wanted.of !== 'mean' ? FORM_WORDS[wanted.of] : ''}`;
  const ampsDigits = output.amps && target && !target.ampsMet ? digitsApart(output.amps, wanted!.amps, 'A') : 3;
  const atLoad = output.amps ? ` at ${formatQuantity(output.amps, 'A', ampsDigits)}` : ' at no load';
  if (!target || !wanted)
    return (
      <h2 className={style}>
        Reaches <span className="text-copper">{reaches}</span>
        {atLoad}. No target is set.
      </h2>
    );
  const ripple = output.ripplePeakToPeakFraction ?? NaN;
  const rippleDigits = target.rippleMet === false ? digitsApart(ripple, wanted.ripplePeakToPeakFraction!, '%', 2) : 2;
  const excess = target.voltsExcess!;
  const parts = [
    target.voltsMet
      ? `${formatQuantity(excess, '%', 2)} above the target`
      : `${formatQuantity(-excess, '%', 2)} short of ${signed(wanted.volts, digits)}`,
  ];
  if (!target.ampsMet) parts.push(`but the target’s ${formatQuantity(wanted.amps, 'A', ampsDigits)} is not reached`);
  return (
    <h2 className={style}>
      <span className={target.met ? 'text-fits' : 'text-over'}>
        {target.voltsMet ? 'Reaches' : 'Only reaches'} {reaches}
      </span>
      {atLoad}, {parts.join(', ')}. Ripple {formatQuantity(ripple, '%', rippleDigits)}
      {target.rippleMet === null
        ? '.'
        : target.rippleMet
          ? ', within the target.'
          : `, over the ${formatQuantity(wanted.ripplePeakToPeakFraction!, '%', rippleDigits)} wanted.`}
    </h2>
  );
}

/** Digits that tell two figures apart that are not the same, from the fewest to six. */
function digitsApart(one: number, other: number, unit: Unit, fewest = 3): number {
  const alike = (digits: number) => formatQuantity(one, unit, digits) === formatQuantity(other, unit, digits);
  return one === other ? fewest : ([2, 3, 4, 5].find((digits) => digits >= fewest && !alike(digits)) ?? 6);
}

const FORM_WORDS = { peak: ' at its peaks', valley: ' in the valley of its ripple' };

/** What arrives of an output that nothing rectifies: by the closed form, else by the time domain. */
function Alternating({ design, prediction, timeDomain }: SentenceProps) {
  const { noLoadPeakVolts } = prediction.output;
  const { rmsVolts, peakVolts, rmsAmps } = prediction.output.alternating!;
  const settled = timeDomain.kind === 'ready' && timeDomain.run.transient.converged ? timeDomain.run.transient : null;
  const closedForm = rmsVolts === null ? null : { rmsVolts, peakVolts: peakVolts!, rmsAmps: rmsAmps! };
  const reached = closedForm ?? (settled && alternatingInTime(settled));
  if (!reached)
    return (
      <>
        Alternating, <span className="text-copper">{formatQuantity(noLoadPeakVolts, 'V')}</span> peak without load. No
        figure yet at this load.
      </>
    );
  const wanted = design.target;
  const outcome =
    wanted && targetOutcome(wanted, { volts: reached.rmsVolts, amps: reached.rmsAmps, rippleFraction: null });
  return (
    <>
      Alternating{rmsVolts === null ? ', by the time domain' : ''}:{' '}
      <span className={outcome === null ? 'text-copper' : outcome.met ? 'text-fits' : 'text-over'}>
        {formatQuantity(reached.rmsVolts, 'V')} RMS
      </span>
      , {formatQuantity(reached.peakVolts, 'V')} peak{' '}
      {reached.rmsAmps > 0 ? `at ${formatQuantity(reached.rmsAmps, 'A')} RMS` : 'at no load'}
      {outcome === null
        ? '. No target is set.'
        : `, ${formatQuantity(Math.abs(outcome.voltsExcess!), '%', 2)} ${outcome.voltsMet ? 'above' : 'short of'} the target’s ${formatQuantity(wanted!.volts, 'V')}, taken as RMS${outcome.ampsMet ? '' : `, and its ${formatQuantity(wanted!.amps, 'A')} is not reached`}.`}
    </>
  );
}

/** Whether the time domain's output reaches the target's voltage; null without a target. */
function reachesTarget(
  { target }: Design,
  { meanVolts, minVolts, maxVolts, amps, ripplePeakToPeakVolts }: Transient,
): boolean | null {
  return (
    target &&
    targetOutcome(target, {
      volts: meanVolts,
      peakVolts: maxVolts,
      valleyVolts: minVolts,
      amps,
      rippleFraction: ripplePeakToPeakVolts / meanVolts,
    }).voltsMet
  );
}

/** Difference between the two ways from which the sentence, which goes by the closed form, is not left alone. */
const FAR_APART = 0.02;

/** Parts that the time domain alone has over their ratings: the margins below go by the closed form. */
export function OverInTime({ design, prediction, timeDomain }: SentenceProps) {
  if (timeDomain.kind !== 'ready' || !timeDomain.run.transient.converged) return null;
  const over = overInTimeDomain(design, prediction, timeDomain.run.transient);
  if (over.length === 0) return null;
  return (
    <p data-over-in-time className="mt-1 border-l-[3px] border-over pl-2.5">
      <span className="font-semibold text-over">Over its rating in the time domain:</span>{' '}
      {over
        .map(
          ({ part, volts, ratedVolts }) =>
            `${part} at ${formatQuantity(volts, 'V')}, rated ${formatQuantity(ratedVolts, 'V')}`,
        )
        .join('; ')}
      . Margins below go by the closed form, which lies lower here.
    </p>
  );
}

/** Where the time domain has quite another output, that is said beside the sentence, target and all. */
export function SaidOtherwise({ design, prediction: { output, drive }, timeDomain }: SentenceProps) {
  if (
    isSilent(drive) ||
    output.noLoadVolts === 0 ||
    output.meanVolts === null ||
    timeDomain.kind !== 'ready' ||
    !timeDomain.run.transient.converged
  )
    return null;
  const { meanVolts } = timeDomain.run.transient;
  const apart = meanVolts / output.meanVolts - 1;
  if (Math.abs(apart) < FAR_APART) return null;
  const reaches = reachesTarget(design, timeDomain.run.transient);
  return (
    <p data-otherwise className="mt-1 border-l-[3px] border-close pl-2.5">
      The time domain has {formatQuantity(signedVolts(meanVolts, output.polarity), 'V')},{' '}
      {formatQuantity(Math.abs(apart), '%', 2)} {apart > 0 ? 'more' : 'less'}
      {design.target ? (reaches ? ', which reaches the target' : ', short of the target') : ''}. Trust it over the
      closed form here; the reason is given below.
    </p>
  );
}
