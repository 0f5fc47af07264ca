import type { Design } from '../../design/design-schema';
import { ladderInputs } from '../../operating/ladder-inputs';
import { seriesFor } from '../../parts/bank';
import { capacitorValues, diodeValues } from '../part-values';
import type { Place, Reading } from '../../parts/place';
import { eachFarads, standingIn } from '../../topology/network';
import { TOPOLOGY_KINDS } from '../../topology/topologies';

const formatString = (series: number | null) =>
  series === null ? '' : series === 1 ? 'one carries it' : `${series} in series carry it`;

const ladderOf = (read: Reading) => read('ladder') as Design['ladder'];

/** Capacitors of the ladder, as many in series in each place as carry the stress. */
export const capacitorPlace: Place = {
  id: 'capacitor',
  name: 'Capacitors',
  takes: 'capacitor',
  partId: 'ladder.capacitor.partId',
  fields: [
    'farads',
    'ratedVolts',
    'tolerance',
    'ratedAcVolts',
    'ratedRmsAmps',
    'lossTangent',
    'lengthMetres',
    'diameterMetres',
    'dcBiasDerating',
    'leakageAmps',
  ].map((field) => `ladder.capacitor.${field}`),
  // A capacitor of more than the part's value is made of several in parallel.
  count: (read) => {
    const { marked, parts } = ladderInputs({ ladder: ladderOf(read) });
    const { farads, series, parallel } = parts.capacitor;
    return (
      series *
      parallel *
      marked.capacitors.reduce((sum, part) => sum + standingIn(part) * Math.ceil(eachFarads(part) / farads - 1e-6), 0)
    );
  },
  fit: (_read, part, { capacitorVolts }) => {
    if (part.kind !== 'capacitor') return null;
    const series = seriesFor('capacitor', part, capacitorVolts);
    return {
      words: formatString(series),
      values: {
        'ladder.capacitorFarads': null,
        'ladder.capacitor': { ...capacitorValues(part), series: series ?? 1, parallel: 1, partId: part.id },
      },
    };
  },
};

/** Diodes of the ladder likewise. */
export const diodePlace: Place = {
  id: 'diode',
  name: 'Diodes',
  takes: 'diode',
  partId: 'ladder.diode.partId',
  fields: [
    'peakInverseVolts',
    'forwardVolts',
    'forwardAmps',
    'averageAmps',
    'surgeAmps',
    'recoverySeconds',
    'junctionFarads',
    'junctionVolts',
    'leakageAmps',
  ].map((field) => `ladder.diode.${field}`),
  count: (read) => {
    const ladder = ladderOf(read);
    // A rectifier inside the transformer is that of a design which has no ladder: it is bought with it.
    if (read('transformer.rectifierInside') === true && TOPOLOGY_KINDS[ladder.topology].takesPulses) return 0;
    return ladder.diode.series * ladderInputs({ ladder }).marked.diodes.length;
  },
  fit: (read, part, { diodeVolts }) => {
    if (part.kind !== 'diode') return null;
    const series = seriesFor('diode', { ratedVolts: part.peakInverseVolts, tolerance: 0 }, diodeVolts);
    return {
      words: formatString(series),
      values: { 'ladder.diode': { ...ladderOf(read).diode, ...diodeValues(part), series: series ?? 1 } },
    };
  },
};
