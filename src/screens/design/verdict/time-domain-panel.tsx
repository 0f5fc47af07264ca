import type { Design } from '@/core/design/design-schema';
import { DRIVE_FIGURES, figuresInOrder, type DriveFigures } from '@/core/drive/figures';
import { FIGURES, shownFigure } from '@/core/predict/figures';
import { compareWithTimeDomain, toldByBoth } from '@/core/transient/comparison';
import type { Prediction } from '@/core/predict/prediction';
import type { Unit } from '@/core/quantity/units';
import { Quantity } from '@/ui/quantity';
import { TimeDomainWaits } from '../charts/time-domain-waits';
import type { TimeDomain } from '../use-transient';

/** Adding up closer than this is not worth digits. */
const LEAST_RESIDUE = 1e-5;
/** Less than a meter shows is not worth telling apart, V. */
const LEAST_VOLTS = 1e-3;

/** Closed form beside time domain, and why they differ. */
export function TimeDomainPanel({
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
        <span>Closed form and time domain</span>
      </h3>
      {timeDomain.kind === 'ready' ? (
        <Ready design={design} prediction={prediction} run={timeDomain.run} idle={timeDomain.idle} />
      ) : (
        <TimeDomainWaits timeDomain={timeDomain} />
      )}
    </section>
  );
}

/** Every figure that the driver has as part of the circuit, link by link. */
function DriverRows({ closedForm, timeDomain }: { closedForm: DriveFigures; timeDomain: DriveFigures }) {
  return LINKS.flatMap(({ link, name }) => {
    const ids = figuresInOrder(timeDomain).filter((id) => DRIVE_FIGURES[id].link === link);
    if (ids.length === 0) return [];
    return [
      <tr key={link}>
        <th scope="rowgroup" colSpan={3} className="pt-2 text-left text-[12.5px] font-semibold text-soft">
          {name}
        </th>
      </tr>,
      ...ids.map((id) => (
        <Row
          key={id}
          id={id}
          label={DRIVE_FIGURES[id].label}
          unit={DRIVE_FIGURES[id].unit}
          closedForm={closedForm[id] ?? null}
          timeDomain={timeDomain[id]!}
        />
      )),
    ];
  });
}

const LINKS = [
  { link: 'supply', name: 'Supply' },
  { link: 'driver', name: 'Driver' },
  { link: 'transformer', name: 'Transformer' },
] as const;

function Row({
  id,
  label,
  unit,
  closedForm,
  timeDomain,
}: {
  id: string;
  label: string;
  unit: Unit;
  closedForm: number | null;
  timeDomain: number;
}) {
  return (
    <tr className="border-t border-rule">
      <th scope="row" className="py-[2.5px] text-left font-normal text-soft">
        {label}
      </th>
      <td className="text-right whitespace-nowrap">
        <Quantity value={closedForm} unit={unit} digits={4} />
      </td>
      <td className="text-right whitespace-nowrap" data-time-domain={id}>
        <Quantity value={timeDomain} unit={unit} digits={4} />
      </td>
    </tr>
  );
}

function Ready({
  design,
  prediction,
  run: { transient },
  idle,
}: {
  design: Design;
  prediction: Prediction;
} & Omit<Extract<TimeDomain, { kind: 'ready' }>, 'kind'>) {
  const comparison = compareWithTimeDomain(design, prediction, transient);
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
          {toldByBoth(prediction, transient).map(({ id, timeDomain }) => (
            <Row
              key={id}
              id={id}
              label={FIGURES[id].label}
              unit={FIGURES[id].unit}
              closedForm={shownFigure(id, prediction)}
              timeDomain={shownFigure(id, prediction, timeDomain)!}
            />
          ))}
          {transient.driver.kind === 'circuit' ? (
            <DriverRows closedForm={prediction.source.figures} timeDomain={{ ...transient.driver.figures, ...idle }} />
          ) : null}
        </tbody>
      </table>
      <p className="mt-1 text-[13px]" data-time-domain="why">
        {comparison.differenceFraction === null ? null : (
          <>
            <Quantity value={comparison.differenceFraction} unit="%" digits={2} plus />.{' '}
          </>
        )}
        {comparison.why} {comparison.doubt ? <span className="text-close">{comparison.doubt} </span> : null}
        <span className="text-soft">
          {transient.driver.kind === 'circuit' && transient.driver.wandering ? (
            <>
              Halves of these cycles agree within{' '}
              <Quantity value={Math.max(LEAST_VOLTS, transient.error.settlingVolts)} unit="V" digits={1} />; what steps
              cost is not known
            </>
          ) : (
            <>
              Settled within{' '}
              <Quantity value={Math.max(LEAST_VOLTS, transient.error.settlingVolts)} unit="V" digits={1} />, steps cost
              under <Quantity value={Math.max(LEAST_VOLTS, transient.error.steppingVolts)} unit="V" digits={1} />
            </>
          )}
          {transient.error.powerResidue === null ? null : (
            <>
              ; power adds up within{' '}
              <Quantity value={Math.max(LEAST_RESIDUE, Math.abs(transient.error.powerResidue))} unit="%" digits={1} />
            </>
          )}
          .
        </span>
      </p>
    </>
  );
}
