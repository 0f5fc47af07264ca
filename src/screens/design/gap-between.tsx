import { useAirGap } from '@/client/air-stores';
import { AIR_GAP_LAWS, ELECTRODES, type OutOfRange } from '@/core/load/air/air-gap';
import { PickField } from '@/ui/pick-field';
import { QuantityField } from '@/ui/quantity-field';
import { OutsideLaw } from './air-fields';

/** Between which electrodes a gap in air is. */
export function GapBetween({ outside }: { outside: OutOfRange | null }) {
  const { settings: gap, change } = useAirGap();
  const { size } = AIR_GAP_LAWS[gap.electrodes];
  return (
    <>
      <PickField
        label="Between"
        value={gap.electrodes}
        options={ELECTRODES.map((value) => ({ value, name: AIR_GAP_LAWS[value].name }))}
        onValue={(electrodes) => change({ electrodes })}
      />
      {size ? (
        <QuantityField
          label={size.label}
          unit="m"
          value={gap[size.at]}
          onValue={(value) => change({ [size.at]: value! })}
        />
      ) : null}
      {size && outside?.at === size.at ? <OutsideLaw reason={outside.reason} /> : null}
    </>
  );
}
