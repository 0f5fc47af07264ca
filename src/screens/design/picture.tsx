'use client';

import { memo, type ComponentProps } from 'react';
import { Climb } from '@/climb/climb';
import type { DraftKind } from '@/core/bench/draft';
import type { StoredDesign } from '@/core/design/design-messages';
import type { Prediction } from '@/core/predict/prediction';
import type { Transient } from '@/core/transient/transient';
import { PartFaults } from './part-faults';
import { PartPanel } from './part-panel';
import type { useMotion } from './use-motion';
import type { usePartChoice } from './use-part-choice';
import type { useWhatIf } from './use-what-if';
import { WhatIfBar } from './what-if-bar';

type PictureProps = {
  design: StoredDesign['design'];
  prediction: Prediction;
  settled: Prediction | null;
  transient: Transient | null;
  choice: ReturnType<typeof usePartChoice>;
  motion: ReturnType<typeof useMotion>;
  ghost: ComponentProps<typeof Climb>['ghost'];
  onRecord: (part: string, kind: DraftKind) => void;
  whatIf: ReturnType<typeof useWhatIf>;
};

/** The Climb, from the time domain once that is there, and the story of the selected part under it. */
export const Picture = memo(function Picture({
  design,
  prediction,
  settled,
  transient,
  choice,
  motion,
  ghost,
  onRecord,
  whatIf,
}: PictureProps) {
  if (prediction.output.alternating)
    return (
      <p className="flex flex-1 items-center justify-center px-8 py-10 text-center text-soft">
        No ladder: the winding stands at the load, and there is nothing to climb. Waveforms, below, has its voltage.
      </p>
    );
  return (
    <>
      {whatIf.shown ? <WhatIfBar shown={whatIf.shown} /> : null}
      <div className="flex h-[26rem] min-h-0 flex-none flex-col lg:h-auto lg:flex-1">
        <Climb
          prediction={settled ?? prediction}
          fromTimeDomain={settled !== null}
          targetVolts={design.target?.volts ?? null}
          selected={choice.part}
          onSelect={choice.choosePart}
          traces={choice.traced}
          onTrace={choice.trace}
          player={motion.player}
          waiting={motion.waiting}
          ghost={ghost}
        />
      </div>
      {choice.part ? (
        <PartPanel
          prediction={whatIf.shown?.run && settled ? settled : prediction}
          transient={transient}
          peaksSpread={design.spread.peaks}
          id={choice.part}
          onClose={() => choice.choosePart(null)}
          onRecord={(kind) => onRecord(choice.part!, kind)}
          fault={whatIf.shown && (whatIf.shown.fault.place === choice.part ? 'here' : 'elsewhere')}
          faults={<PartFaults design={design} part={choice.part} whatIf={whatIf} />}
        />
      ) : null}
    </>
  );
});
