import type { Band } from '@/core/load/air/air-gap';
import type { Unit } from '@/core/quantity/units';
import { Quantity } from '@/ui/quantity';

/** An estimate with the band it lies in. */
export function BandLine({ name, id, band, unit }: { name: string; id: string; band: Band; unit: Unit }) {
  return (
    <div className="flex items-baseline justify-between gap-2 py-[1.5px]" data-band={id}>
      <span className="text-[13.5px] text-soft">{name}</span>
      <span className="text-right whitespace-nowrap">
        <Quantity value={band.likely} unit={unit} digits={3} />
        <span className="block text-xs text-soft">
          {band.least === null ? 'from less' : <Quantity value={band.least} unit={unit} digits={3} />} to{' '}
          {band.most === null ? 'more' : <Quantity value={band.most} unit={unit} digits={3} />}
        </span>
      </span>
    </div>
  );
}
