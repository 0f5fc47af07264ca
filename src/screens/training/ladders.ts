import { lowSourceSchema, type LowSource } from '@/core/bench/low-source';
import { changeDesign } from '@/core/design/change-design';
import type { Design } from '@/core/design/design-schema';
import { meterSchema, type Meter } from '@/core/drive/meter-sense';

/** A ladder of the trainer: its low test, but for what it is to read. */
export type Trained = { id: string; name: string; design: Design; source: LowSource; meter: Meter };

const winding = (rmsVolts: number) => lowSourceSchema.parse({ kind: 'winding', rmsVolts, hertz: 50, ohms: 1 });
const meter = meterSchema.parse({});

const grown = (tripler: Design, topology: 'half-wave' | 'full-wave' | 'bipolar', stages: number): Design => {
  const design = changeDesign(changeDesign(tripler, { path: '$.ladder.topology', value: topology }), {
    path: '$.ladder.stages',
    value: stages,
  });
  return { ...design, target: null, load: { kind: 'open' } };
};

/**
 * From the plain one to that which takes longest.
 *
 * @param demo of its designs the teaching tripler, and the photomultiplier's bias supply
 */
export const trainedLadders = ({ tripler, bias }: { tripler: Design; bias: Design }): Trained[] => [
  { id: 'tripler', name: 'Teaching tripler', design: tripler, source: winding(12), meter },
  {
    id: 'photomultiplier',
    name: 'Photomultiplier bias',
    design: bias,
    source: winding(12),
    meter,
  },
  {
    id: 'five',
    name: 'Half-wave, five stages of 10 µF',
    design: grown(tripler, 'half-wave', 5),
    source: winding(12),
    meter,
  },
  {
    id: 'bipolar',
    name: 'Bipolar, two and two stages',
    design: grown(tripler, 'bipolar', 2),
    source: winding(12),
    meter,
  },
  { id: 'full', name: 'Full-wave, four stages', design: grown(tripler, 'full-wave', 4), source: winding(12), meter },
];
