import type { DeadStep } from '@/core/dead/steps';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { Quantity } from '@/ui/quantity';

/** Steps in their order; those at one capacitor each stand as a table in their place. */
export function StepList({ steps }: { steps: readonly DeadStep[] }) {
  const atCapacitors = steps.filter((step) => step.capacitor);
  const first = steps.findIndex((step) => step.capacitor);
  const shown = steps.filter((step, at) => !step.capacitor || at === first);
  return (
    <ol className="grid list-decimal gap-2.5 pl-6 text-[14px]" aria-label="Steps">
      {shown.map((step) =>
        step.capacitor ? (
          <li key="capacitors" data-step="capacitors" className="pl-1">
            <strong className="font-semibold">Stick across every capacitor, from the top down</strong>
            <p>{step.text}</p>
            <CapacitorTable steps={atCapacitors} />
          </li>
        ) : (
          <li key={step.id} data-step={step.id} className="pl-1">
            <strong className="font-semibold">{step.title}</strong>
            {step.seconds === null ? null : (
              <span className="text-soft"> · {formatQuantity(step.seconds, 's', 3)} at least</span>
            )}
            <p>{step.text}</p>
            {step.reading ? (
              <p className="text-soft">
                Read {step.reading.where}: under {formatQuantity(step.reading.underVolts, 'V')} to go on.{' '}
                {step.reading.meter}
              </p>
            ) : null}
          </li>
        ),
      )}
    </ol>
  );
}

function CapacitorTable({ steps }: { steps: readonly DeadStep[] }) {
  return (
    <div className="overflow-x-auto">
      <table className="mt-1 w-full max-w-2xl text-left text-[13px]" aria-label="Stick across each capacitor">
        <thead className="text-soft">
          <tr className="border-b border-rule">
            <th className="py-1 pr-3 font-normal">Capacitor</th>
            <th className="py-1 pr-3 font-normal">Between</th>
            <th className="py-1 pr-3 text-right font-normal">Hold, at least</th>
            <th className="py-1 pr-3 text-right font-normal">May stand there, dc</th>
            <th className="py-1 text-right font-normal">Read under</th>
          </tr>
        </thead>
        <tbody>
          {steps.map(({ id, capacitor, seconds, reading }) => (
            <tr key={id} data-step={id} className="border-b border-rule">
              <th scope="row" className="py-0.5 pr-3 font-medium">
                {capacitor!.id}
              </th>
              <td className="py-0.5 pr-3">
                {capacitor!.lower} and {capacitor!.upper}
              </td>
              <td className="py-0.5 pr-3 text-right">
                <Quantity value={seconds} unit="s" />
              </td>
              <td className="py-0.5 pr-3 text-right">
                <Quantity value={reading!.mostVolts} unit="V" />
              </td>
              <td className="py-0.5 text-right">
                <Quantity value={reading!.underVolts} unit="V" />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
