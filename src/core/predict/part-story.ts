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
    return {
      part: capacitor,
      kind: 'capacitor',
      does: capacitorDoes(prediction, capacitor),
      whenItFails:
        capacitor.count > 1
          ? 'One shorted, the other alone keeps direct voltage from the winding. Open, nothing is delivered.'
          : prediction.capacitors.length === 1
            ? 'Shorted, the diode shorts half of every cycle of the drive. Open, nothing is delivered.'
            : 'Shorted, the stages around it take its voltage as well and tend to fail in turn. Open, nothing above it climbs.',
    };
  }
  const diode = prediction.diodes.find((part) => part.id === id);
  if (!diode) return null;
  return {
    part: diode,
    kind: 'diode',
    does: diodeDoes(prediction, diode),
    whenItFails:
      'Shorted, its stage no longer adds and its neighbours block more than their share. Open, nothing above it is fed. A slow or leaky one runs hot.',
  };
}

function capacitorDoes({ topology, nodes }: Prediction, { column, lower, upper, count }: CapacitorPrediction): string {
  if (topology === 'clamp')
    return 'Holds one peak, so that the output pulses between ground and twice the peak. Nothing smooths it.';
  if (column === 'smoothing')
    return topology === 'bridge-doubler'
      ? 'Holds one peak of the drive; the two are in series with the load.'
      : 'Holds this stage’s part of the output steady; all in this column are in series with the load.';
  const onSource = nodes.some((node) => node.column === 'source' && (node.id === lower || node.id === upper));
  if (!onSource) return 'Carries the swing of the drive up to this stage and hands charge to the diode above.';
  if (count > 1)
    return 'Two alike, one at each end of the winding: they couple it into the ladder and keep direct current from it. They carry all the charge of both sides, so their value counts most; how they share their direct voltage is settled by leakage alone, and one may come to stand all of it.';
  return column === 'antiphase' || topology === 'full-wave'
    ? 'Couples one half of the winding into the ladder: it carries half the charge of the stages above.'
    : 'Couples the drive into the ladder: it carries all the charge of the stages above, so its value counts most.';
}

function diodeDoes({ topology, nodes }: Prediction, diode: DiodePrediction): string {
  if (topology === 'clamp') return 'Ties the lower peak to ground, then blocks up to twice the peak.';
  const columnOf = (id: string) => nodes.find((node) => node.id === id)?.column;
  const far = diode.side === 1 ? diode.cathode : diode.anode;
  const near = diode.side === 1 ? diode.anode : diode.cathode;
  if (columnOf(far) === 'smoothing')
    return columnOf(near) === 'source'
      ? 'Charges the smoothing capacitor to a peak of the winding, then blocks twice the peak.'
      : 'Passes charge into the smoothing column at one peak of the drive, then blocks twice the peak.';
  return 'Refills the oscillating capacitor at the other peak of the drive, then blocks twice the peak.';
}
