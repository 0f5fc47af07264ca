import { DRIVER_KINDS } from '../../drive/driver-kinds';
import { isMirrored } from '../../operating/ladder-inputs';
import { sentence } from '../../quantity/sentence';
import { TOPOLOGY_KINDS } from '../../topology/topologies';
import { groundOf, type GroundKind } from '../ground';
import { nodeName } from '../node-name';
import { type SheetSection, type SheetInputs, say } from './blocks';

/** A diode from its anode to its cathode, which has the band. */
const bandWords = (id: string, anode: string, cathode: string): string =>
  `${id} from ${nodeName(anode)} to ${nodeName(cathode)}, its band at ${nodeName(cathode)}`;

/** Where the ladder's ground goes, by what feeds it: common practice, no source; local codes come first. */
const GROUNDS: Record<GroundKind, string> = {
  floating:
    'Neither end of the winding joins core, ground or shield: measured open to all. One wire from the end of the ladder that is earthed to the enclosure, visible and pulled at; where neither is, the enclosure alone is earthed.',
  secondary:
    'One wire from the ladder’s ground to the low end of the secondary, one from there to the enclosure, both visible and pulled at.',
  line: 'The ladder’s ground is a conductor of the line here: it joins neither earth nor enclosure, nor anything that a hand reaches. The enclosure is earthed by a wire of its own.',
  source:
    'One wire from the ladder’s ground to the low end of the source. On to the enclosure only where that end is measured open to every pin of the plug; the enclosure is earthed by a wire of its own.',
};

/** Order of assembly: common practice, no source. */
export function assemblySection({ design, insulation }: SheetInputs): SheetSection {
  const { driver, transformer, output, build } = design;
  const steps: { id: string; title: string; text: string }[] = [];
  const step = (id: string, title: string, text: string) => steps.push({ id, title, text });
  const { firstRun } = DRIVER_KINDS[driver.kind];
  if (firstRun)
    step(
      'driver',
      transformer ? 'Driver and transformer' : 'Driver',
      `Before there is a ladder on it. ${firstRun} Then off, and measured dead.`,
    );
  if (insulation) {
    const { network } = insulation.potentials;
    const isTurned = isMirrored(design, network);
    const stages = [...new Set(network.diodes.map(({ side, stage }) => `${side} ${stage}`))];
    for (const key of stages) {
      const [side, stage] = key.split(' ').map(Number);
      // One inside the transformer is bought with it.
      const own =
        transformer?.rectifierInside && TOPOLOGY_KINDS[design.ladder.topology].takesPulses
          ? []
          : network.diodes.filter((diode) => diode.side === side && diode.stage === stage);
      const capacitors = network.capacitors.filter((part) => part.side === side && part.stage === stage);
      step(
        `stage ${key}`,
        `Stage ${stage}${side < 0 ? ', lower side' : ''}`,
        [
          `${capacitors.map(({ id, lower, upper }) => `${id} from ${nodeName(lower)} to ${nodeName(upper)}`).join('; ')}.`,
          ...(own.length > 0
            ? [
                `${own.map(({ id, anode, cathode }) => bandWords(id, isTurned ? cathode : anode, isTurned ? anode : cathode)).join('; ')}.`,
                'Check each band once more before the next stage.',
              ]
            : ['Its rectifier is inside the transformer.']),
        ].join(' '),
      );
    }
    step(
      'proof',
      'Low-voltage test',
      'Before any insulation: every tap by the plan of the Bench page. A wrong diode is found now or never.',
    );
  }
  if (output.seriesOhms > 0 || output.bleederOhms !== null || output.divider || output.smoothing.length > 0)
    step(
      'output',
      'Behind the terminal',
      sentence(
        [
          ...(output.smoothing.length > 0
            ? [
                `${output.smoothing.length} smoothing ${output.smoothing.length === 1 ? 'section' : 'sections'} from the terminal on`,
              ]
            : []),
          ...(output.divider ? [`the divider, its foot to ground by a wire of its own`] : []),
          ...(output.bleederOhms === null ? [] : [`the bleeder, ${say(output.bleederOhms, 'Ω')}, across the terminal`]),
          ...(output.seriesOhms > 0 ? [`the series string, ${say(output.seriesOhms, 'Ω')}, to the load`] : []),
        ]
          .join('; ')
          .concat('.'),
      ),
    );
  step('ground', 'Ground', GROUNDS[groundOf(design)]);
  step(
    'insulation',
    'Insulation last',
    build.medium === 'air'
      ? 'Flux washed off, ends cut and rounded, distances measured against the table, the enclosure closed.'
      : `Once the low-voltage test reads right: into ${build.medium === 'other' ? 'the medium' : build.medium}, no bubble left, then the same test again.`,
  );
  return { id: 'assembly', title: 'Assembly', blocks: [{ kind: 'steps', label: 'Assembly', steps }] };
}
