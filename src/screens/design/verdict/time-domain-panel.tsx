import type { Design } from '@/core/design/design-schema';
import { compareWithTimeDomain } from '@/core/transient/comparison';
import type { Prediction } from '@/core/predict/prediction';
import type { Unit } from '@/core/quantity/units';
import { Quantity } from '@/ui/quantity';
import { TimeDomainWaits } from '../charts/time-domain-waits';
import type { TimeDomain } from '../use-transient';

/** Adding up closer than this is not worth digits. */
const LEAST_RESIDUE = 1e-5;

/** Closed form and time domain side by side, and why they differ. */
export function InTimePanel({
  design,
  prediction,
  timeDomain,
}: {
  design: Design;
  prediction: Prediction;
  timeDomain: TimeDomain;
}) {
  return (
    <section aria-label="Time domain" className="mt-3">
      <h3 className="flex items-baseline justify-between text-[13px] font-semibold text-soft">
        <span>Two ways to the answer</span>
      </h3>
      {timeDomain.kind === 'ready' ? (
        <Ready design={design} prediction={prediction} run={timeDomain.run} />
      ) : (
        <TimeDomainWaits timeDomain={timeDomain} />
      )}
    </section>
  );
}

function Ready({
  design,
  prediction,
  run: { transient },
}: {
  design: Design;
  prediction: Prediction;
  run: Extract<TimeDomain, { kind: 'ready' }>['run'];
}) {
  const { output, input } = prediction;
  const comparison = compareWithTimeDomain(design, prediction, transient);
  const rows: { key: string; name: string; closed: number | null; timed: number | null; unit: Unit }[] = [
    { key: 'mean', name: 'Output, mean', closed: output.meanVolts, timed: transient.meanVolts, unit: 'V' },
    {
      key: 'ripple',
      name: 'Ripple, p-p',
      closed: output.ripplePeakToPeakVolts,
      timed: transient.ripplePeakToPeakVolts,
      unit: 'V',
    },
    { key: 'watts', name: 'Power in', closed: input.watts, timed: transient.watts.in, unit: 'W' },
    { key: 'amps', name: 'Source, RMS', closed: input.amps, timed: transient.source.rmsAmps, unit: 'A' },
  ];
  return (
    <>
      <table className="mt-0.5 w-full text-[13px]">
        <thead>
          <tr className="text-soft">
            <th scope="col" className="sr-only">
              figure
            </th>
            <th scope="col" className="py-0.5 text-right font-normal">
              closed form
            </th>
            <th scope="col" className="py-0.5 text-right font-normal">
              time domain
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.key} className="border-t border-rule">
              <th scope="row" className="py-[2.5px] text-left font-normal text-soft">
                {row.name}
              </th>
              <td className="text-right whitespace-nowrap">
                <Quantity value={row.closed} unit={row.unit} digits={4} />
              </td>
              <td className="text-right whitespace-nowrap" data-in-time={row.key}>
                <Quantity value={row.timed} unit={row.unit} digits={4} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-[13px]" data-in-time="why">
        {comparison.differenceFraction === null ? null : (
          <>
            {comparison.differenceFraction > 0 ? '+' : ''}
            <Quantity value={comparison.differenceFraction} unit="%" digits={2} />.{' '}
          </>
        )}
        {comparison.why} {comparison.doubt ? <span className="text-close">{comparison.doubt} </span> : null}
        <span className="text-soft">
          Settled within <Quantity value={transient.error.settlingVolts} unit="V" digits={1} />, steps cost under{' '}
          <Quantity value={transient.error.steppingVolts} unit="V" digits={1} />; power adds up within{' '}
          <Quantity value={Math.max(LEAST_RESIDUE, Math.abs(transient.error.powerResidue ?? 0))} unit="%" digits={1} />.
        </span>
      </p>
    </>
  );
}
