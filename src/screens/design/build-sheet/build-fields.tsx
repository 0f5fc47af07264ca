import {
  ARRANGEMENTS,
  HELD,
  MEDIA,
  SURROUNDINGS,
  type Arrangement,
  type Build,
  type Medium,
  type Surroundings,
} from '@/core/design/build-schema';
import type { Design } from '@/core/design/design-schema';
import { PickField } from '@/ui/pick-field';
import { QuantityField } from '@/ui/quantity-field';
import { AirFields } from '../air-fields';
import type { EditorStore } from '../saving/editor-store';

const MEDIUM_NAMES: Record<Medium, string> = {
  air: 'Air',
  oil: 'Transformer oil',
  wax: 'Paraffin wax',
  resin: 'Casting resin',
  other: 'Another',
};
const SURROUNDING_NAMES: Record<Surroundings, string> = {
  clean: 'Dry and clean, closed',
  indoor: 'A room, some dust',
  damp: 'Damp or dirty',
};
const ARRANGEMENT_NAMES: Record<Arrangement, string> = {
  opposite: 'Columns opposite',
  zigzag: 'Zigzag on a strip',
  boards: 'Boards, one over the other',
  tube: 'Along a tube',
};
const HELD_NAMES: Record<Build['held'], string> = {
  surface: 'On a board, strip or wall',
  free: 'Free, by pins and leads',
};
const optionsOf = <T extends string>(values: readonly T[], names: Record<T, string>) =>
  values.map((value) => ({ value, name: names[value] }));

/** How the design is put together: medium, air, arrangement, bodies, spacing. */
export function BuildFields({ store, design: { build, ladder } }: { store: EditorStore; design: Design }) {
  const { edit } = store.getState();
  const at = (path: string) => (value: unknown) => edit(`$.build.${path}`, value);
  const metres = (label: string, path: keyof typeof build, placeholder: string) => (
    <QuantityField
      label={label}
      unit="m"
      optional
      placeholder={placeholder}
      value={build[path] as number | null}
      onValue={at(path)}
    />
  );
  return (
    <div className="no-print mt-2 grid gap-x-10 gap-y-1 sm:grid-cols-2 lg:grid-cols-3" data-build="fields">
      <div>
        <PickField
          label="Medium"
          value={build.medium}
          options={optionsOf(MEDIA, MEDIUM_NAMES)}
          onValue={at('medium')}
        />
        {build.medium === 'air' ? (
          <PickField
            label="Surroundings"
            value={build.surroundings}
            options={optionsOf(SURROUNDINGS, SURROUNDING_NAMES)}
            onValue={at('surroundings')}
          />
        ) : null}
        <PickField
          label="Arrangement"
          value={build.arrangement}
          options={optionsOf(ARRANGEMENTS, ARRANGEMENT_NAMES)}
          onValue={at('arrangement')}
        />
        <PickField label="Parts held" value={build.held} options={optionsOf(HELD, HELD_NAMES)} onValue={at('held')} />
        {build.arrangement === 'boards' ? (
          <QuantityField label="Stages on a board" unit="" value={build.boardStages} onValue={at('boardStages')} />
        ) : null}
        {build.medium === 'air' ? <AirFields /> : null}
      </div>
      <div>
        {metres('Stage to stage', 'pitchMetres', 'found')}
        {metres('Column to column', 'rowMetres', 'found')}
        {build.arrangement === 'boards' ? metres('Board to board', 'boardMetres', 'found') : null}
        <QuantityField label="Leads, diameter" unit="m" value={build.leadMetres} onValue={at('leadMetres')} />
        <QuantityField
          label="Solder joints, radius"
          unit="m"
          value={build.jointRadiusMetres}
          onValue={at('jointRadiusMetres')}
        />
      </div>
      <div>
        <QuantityField
          label="Capacitor body, length"
          unit="m"
          optional
          placeholder="usual"
          value={ladder.capacitor.lengthMetres}
          onValue={(value) => edit('$.ladder.capacitor.lengthMetres', value)}
        />
        <QuantityField
          label="Capacitor body, diameter"
          unit="m"
          optional
          placeholder="usual"
          value={ladder.capacitor.diameterMetres}
          onValue={(value) => edit('$.ladder.capacitor.diameterMetres', value)}
        />
        {metres('Diode body, length', 'diodeLengthMetres', 'usual')}
        {metres('Diode body, diameter', 'diodeDiameterMetres', 'usual')}
      </div>
    </div>
  );
}
