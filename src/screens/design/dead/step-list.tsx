import type { DeadStep } from '@/core/dead/steps';
import { timeWords } from './time-words';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { Quantity } from '@/ui/quantity';

/** Steps in their order; those at the nodes behind the terminals stand as a table in their place. */
export function StepList({ steps }: { steps: readonly DeadStep[] }) {
  const isInside = ({ node }: DeadStep) => node !== null && !node.isTerminal;
  const inside = steps.filter(isInside);
  const first = steps.findIndex(isInside);
  const shown = steps.filter((step, at) => !isInside(step) || at === first);
  return (
    <ol className="grid list-decimal gap-2.5 pl-6 text-[14px]" aria-label="Steps">
      {shown.map((step) =>
        isInside(step) ? (
          <li key="inside" data-step="inside" className="pl-1">
            <strong className="font-semibold">Stick, meter and strap on every other node, from the foot up</strong>
            <p>
              Each as the terminal: hold, measure against ground, then a strap, its ground end first, that stays on.
              What a failed diode or winding has kept from the terminal is found here.
            </p>
            <NodeTable steps={inside} />
          </li>
        ) : (
          <li key={step.id} data-step={step.id} className="pl-1">
            <strong className="font-semibold">{step.title}</strong>
            {step.seconds === null ? null : <span className="text-soft"> · {timeWords(step.seconds)} at least</span>}
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

function NodeTable({ steps }: { steps: readonly DeadStep[] }) {
  return (
    <div className="overflow-x-auto">
      <table className="mt-1 w-full max-w-2xl text-left text-[13px]" aria-label="Stick on each other node">
        <thead className="text-soft">
          <tr className="border-b border-rule">
            <th className="py-1 pr-3 font-normal">Node</th>
            <th className="py-1 pr-3 font-normal">Empties</th>
            <th className="py-1 pr-3 text-right font-normal">Hold, at least</th>
            <th className="py-1 pr-3 text-right font-normal">Of a failure, about</th>
            <th className="py-1 text-right font-normal">Read under</th>
          </tr>
        </thead>
        <tbody>
          {steps.map(({ id, node, seconds, reading }) => (
            <tr key={id} data-step={id} className="border-b border-rule">
              <th scope="row" className="py-0.5 pr-3 font-medium">
                {node!.name}
              </th>
              <td className="py-0.5 pr-3">{node!.empties.join(', ') || '–'}</td>
              <td className="py-0.5 pr-3 text-right">
                <Quantity value={seconds} unit="s" />
              </td>
              <td className="py-0.5 pr-3 text-right">
                <Quantity value={reading!.failedVolts} unit="V" />
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
