import type { Transformer } from '../../magnetics/transformer';
import type { FedNode, SupplyCircuit } from '../supply-circuit';
import { LEAST_STEPS, singleSwitchCircuit } from './single-switch';

/** A flyback whose switch is closed for a fixed part of each cycle. */
export function flybackCircuit(
  feed: { volts: number; seriesOhms: number },
  driver: {
    frequencyHertz: number;
    duty: number;
    clampVolts: number | null;
    switchFarads: number;
    snubberFarads: number | null;
    snubberOhms: number;
    transistorOhms: number;
    ringQuality: number;
  },
  transformer: Transformer,
  fed: readonly FedNode[],
  farads: number,
): SupplyCircuit {
  const { frequencyHertz, duty } = driver;
  const on = duty / frequencyHertz;
  const off = (1 - duty) / frequencyHertz;
  return singleSwitchCircuit(
    feed,
    {
      ...driver,
      hertz: frequencyHertz,
      clampFigure: 'clampWatts',
      peakAmps: (feed.volts * on) / transformer.primaryHenries!,
      switchOhms: driver.transistorOhms,
      snubber: driver.snubberFarads === null ? null : { farads: driver.snubberFarads, ohms: driver.snubberOhms },
      base: null,
      phases: ({ firstHeld, firstFree, freeSteps }) => [
        { seconds: on, closed: ['switch'], until: null, steps: LEAST_STEPS, first: firstHeld },
        { seconds: off, closed: [], until: null, steps: freeSteps(off), first: firstFree },
      ],
    },
    transformer,
    fed,
    farads,
  );
}
