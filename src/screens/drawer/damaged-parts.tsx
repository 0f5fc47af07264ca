import { downloadText } from '@/client/design-file';
import type { Drawer } from '@/core/drawer/drawer-messages';
import { formatFaults } from '@/core/schema/faults';
import { buttonStyle } from '@/ui/button';

/** Rows of the drawer that cannot be read, each with its fault; they can be handed out as stored, and taken out. */
export function DamagedParts({ damaged, onRemove }: Pick<Drawer, 'damaged'> & { onRemove: (id: string) => void }) {
  if (damaged.length === 0) return null;
  return (
    <section aria-label="Parts that cannot be read" className="mt-3 border-l-[3px] border-over pl-2.5 text-[13px]">
      <p>
        {damaged.length === 1 ? 'One part' : `${damaged.length} parts`} cannot be read. Nothing is lost: export what is
        stored, correct it and add it anew.
      </p>
      <ul>
        {damaged.map(({ id, name, faults, row }) => (
          <li key={id} className="flex flex-wrap items-baseline gap-x-3">
            <span className="min-w-0 break-words">
              {name}: {formatFaults(faults)}
            </span>
            <button
              type="button"
              className={buttonStyle('quiet')}
              onClick={() =>
                downloadText(`part-${id.slice(0, 8)}.json`, 'application/json', JSON.stringify(row, null, 2))
              }
            >
              Export as stored
            </button>
            <button type="button" className={buttonStyle('quiet')} onClick={() => onRemove(id)}>
              Take out
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
