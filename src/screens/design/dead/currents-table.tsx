import { hardestPressed, type PartCurrents } from '@/core/dead/currents';
import { More } from '@/ui/more';
import { Quantity } from '@/ui/quantity';

const KINDS = ['diode', 'capacitor'] as const;

/** What diodes and capacitors carry as the terminal is brought to ground: the hardest pressed, and each. */
export function CurrentsTable({ currents }: { currents: readonly PartCurrents[] }) {
  if (currents.length === 0) return null;
  return (
    <div className="mt-1 text-[13.5px]" data-dead="currents">
      <ul>
        {KINDS.map((kind) => {
          const [stick, bare] = [hardestPressed(currents, kind, 'stick'), hardestPressed(currents, kind, 'bare')];
          return stick && bare ? (
            <li key={kind} data-carries={kind}>
              Most in a {kind}: <Quantity value={stick.amps} unit="A" /> through the stick ({stick.id}),{' '}
              <Quantity value={bare.amps} unit="A" /> by a bare short ({bare.id}).
            </li>
          ) : null;
        })}
      </ul>
      <More words="Each part, both ways">
        <table className="mt-1 w-full max-w-xl border-collapse text-[13px]" aria-label="What each part carries">
          <thead>
            <tr className="text-left text-soft">
              <th scope="col" className="py-1 pr-3 font-medium">
                Part
              </th>
              <th scope="col" className="py-1 pr-3 font-medium">
                Through the stick
              </th>
              <th scope="col" className="py-1 font-medium">
                By a bare short
              </th>
            </tr>
          </thead>
          <tbody>
            {currents.map(({ id, stick, bare }) => (
              <tr key={id} className="border-t border-rule" data-carries-part={id}>
                <th scope="row" className="py-0.5 pr-3 font-normal">
                  {id}
                </th>
                {[stick, bare].map(({ most, least }, at) => (
                  <td key={at} className="py-0.5 pr-3">
                    <Quantity value={most} unit="A" /> · <Quantity value={least} unit="A" />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        <p className="mt-1 text-xs text-soft">
          A diode forwards, what recovery takes back not counted; a capacitor as it is charged, and as it gives up
          charge. With an ohm of leads and arc in the bare short.
        </p>
      </More>
    </div>
  );
}
