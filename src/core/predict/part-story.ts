import type { CapacitorPrediction, DiodePrediction, Prediction } from './prediction';

/** What a part of the ladder is for and what happens when it goes. */
export type PartStory = {
  part: CapacitorPrediction | DiodePrediction;
  kind: 'capacitor' | 'diode';
  does: string;
  whenItFails: string;
};

/** The story of one part by its id, or null when the ladder has no such part. Failure lore is common practice, no source. */
export function partStory(prediction: Prediction, id: string): PartStory | null {
  const capacitor = prediction.capacitors.find((part) => part.id === id);
  if (capacitor) {
    const first = capacitor.lower === 'source';
    return {
      part: capacitor,
      kind: 'capacitor',
      does: first
        ? 'Couples the drive into the ladder: it carries all the charge of the stages above, so its value counts most.'
        : capacitor.column === 'oscillating'
          ? 'Carries the swing of the drive up to this stage and hands charge to the diode above.'
          : 'Holds this stage’s part of the output steady; all in this column are in series with the load.',
      whenItFails:
        'Shorted, the stages around it take its voltage as well and tend to fail in turn. Open, nothing above it climbs.',
    };
  }
  const diode = prediction.diodes.find((part) => part.id === id);
  if (!diode) return null;
  return {
    part: diode,
    kind: 'diode',
    does: prediction.nodes.some((node) => node.id === diode.cathode && node.column === 'oscillating')
      ? 'Refills the oscillating capacitor at the negative peak, then blocks twice the peak.'
      : 'Passes charge into the smoothing column at the positive peak, then blocks twice the peak.',
    whenItFails:
      'Shorted, its stage no longer adds and its neighbours block more than their share. Open, nothing above it is fed. A slow or leaky one runs hot.',
  };
}
