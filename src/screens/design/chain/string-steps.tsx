import { FIRM_STRING, stringFigures } from '@/core/load/kinds/bias-string';
import type { Load } from '@/core/load/load-kinds';
import type { OutputPrediction } from '@/core/predict/prediction';
import { Quantity } from '@/ui/quantity';
import { LoadRow } from './load-row';

/** What the taps of a bias string stand at. */
export function StringSteps({ load, output }: { load: Load & { kind: 'bias-string' }; output: OutputPrediction }) {
  if (output.meanVolts === null) return null;
  const { voltsEach, wattsEach, stringAmps, overTube } = stringFigures(load, output.meanVolts);
  return (
    <dl aria-label="The bias string" className="mt-2 border-t border-rule pt-2 text-[13.5px]">
      <LoadRow name="From tap to tap, mean" id="each">
        <Quantity value={voltsEach} unit="V" digits={3} /> · <Quantity value={wattsEach} unit="W" digits={2} />
      </LoadRow>
      <LoadRow name="Through the string" id="string">
        <Quantity value={stringAmps} unit="A" digits={3} />
      </LoadRow>
      {overTube === null ? null : (
        <>
          <LoadRow name="over what the tube takes" id="over">
            <Quantity value={overTube} unit="" digits={2} /> times
          </LoadRow>
          {overTube < FIRM_STRING ? (
            <dd className="text-xs text-over">
              Under {FIRM_STRING} times the taps move with what the tube takes: a firmer string, or capacitors across
              the last steps.
            </dd>
          ) : null}
        </>
      )}
    </dl>
  );
}
