import { mostOf, type EnergyCase } from '@/core/dead/charged';
import type { DeadPlan } from '@/core/dead/plan';
import { LEAST_TOLD } from '@/core/output/discharge';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { Quantity } from '@/ui/quantity';

const nameOf = (id: EnergyCase['id'], limitVolts: number): string =>
  ({
    charged: 'Charged, without load: the most',
    running: 'At the load',
    interrupted: `Stick taken away once a terminal reads under ${formatQuantity(limitVolts, 'V')}`,
    shorted: 'Stick held at the terminal till nothing falls',
    bled: 'After the bleeder’s time',
  })[id];

function Least({ value, unit }: { value: number; unit: keyof typeof LEAST_TOLD }) {
  const size = Math.abs(value);
  return size < LEAST_TOLD[unit] ? (
    <span className="whitespace-nowrap text-soft">under {formatQuantity(LEAST_TOLD[unit], unit, 1)}</span>
  ) : (
    <Quantity value={size} unit={unit} />
  );
}

/** What stands in the ladder, case by case, and which capacitor holds most of it. */
export function EnergyTable({ plan: { energies, limitVolts } }: { plan: DeadPlan }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full min-w-[40rem] text-left text-[13px]" aria-label="What stands in it">
        <thead className="text-soft">
          <tr className="border-b border-rule">
            <th className="py-1 pr-3 font-normal">Case</th>
            <th className="py-1 pr-3 text-right font-normal">Terminal, mean</th>
            <th className="py-1 pr-3 text-right font-normal">Energy</th>
            <th className="py-1 pr-3 text-right font-normal">Charge</th>
            <th className="py-1 pr-3 font-normal">Most of it in</th>
            <th className="py-1 font-normal">Limit of IEC 61010-1</th>
          </tr>
        </thead>
        <tbody>
          {energies.map((one) => {
            const most = mostOf(one);
            return (
              <tr key={one.id} data-energy={one.id} className="border-b border-rule align-baseline">
                <th scope="row" className="py-1 pr-3 font-normal">
                  {nameOf(one.id, limitVolts)}
                </th>
                <td className="py-1 pr-3 text-right">
                  <Least value={one.terminalVolts} unit="V" />
                </td>
                <td className="py-1 pr-3 text-right">
                  <Least value={one.joules} unit="J" />
                </td>
                <td className="py-1 pr-3 text-right">
                  <Least value={one.coulombs} unit="C" />
                </td>
                <td className="py-1 pr-3 whitespace-nowrap">
                  {most ? (
                    <>
                      {most.id}, <Least value={most.volts} unit="V" />
                    </>
                  ) : (
                    '–'
                  )}
                </td>
                <td className={`py-1 whitespace-nowrap ${one.hazardous ? 'text-over' : 'text-soft'}`}>
                  {one.hazardous ? 'over it' : 'under it'}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
