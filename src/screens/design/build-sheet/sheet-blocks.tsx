import type { ReactNode } from 'react';
import type { Block, PictureKind, SheetSection } from '@/core/build/sections/blocks';

type Ticking = {
  /** When a step was done; null where it was not. */
  doneAt: (step: string) => string | null;
  onTick: (step: string, isDone: boolean) => void;
};

type PictureBlock = Extract<Block, { kind: PictureKind }>;
const PICTURES: readonly string[] = ['winding', 'layout', 'wiring'] satisfies PictureKind[];
const isPicture = (block: Block): block is PictureBlock => PICTURES.includes(block.kind);

/** One section of the sheet. */
export function SheetBlocks({
  section: { id, blocks },
  pictures,
  ...ticking
}: { section: SheetSection; pictures: Readonly<Record<PictureKind, ReactNode>> } & Ticking) {
  return blocks.map((block, at) =>
    isPicture(block) ? (
      <div key={at}>{pictures[block.kind]}</div>
    ) : (
      <OneBlock key={at} block={block} section={id} {...ticking} />
    ),
  );
}

function OneBlock({
  block,
  section,
  doneAt,
  onTick,
}: { block: Exclude<Block, PictureBlock>; section: string } & Ticking) {
  switch (block.kind) {
    case 'text':
      return (
        <p className={`mt-1 max-w-[80ch] text-[13.5px] ${block.isWarning ? 'border-l-[3px] border-close pl-2.5' : ''}`}>
          {block.isWarning ? <strong className="font-semibold">Warning. </strong> : null}
          {block.text}
        </p>
      );
    case 'table':
      return (
        <div className="mt-1 overflow-x-auto print:overflow-visible">
          <table className="w-full text-left text-[13px]" aria-label={block.label}>
            <thead className="text-soft">
              <tr className="border-b border-rule align-bottom">
                {block.head.map(({ name, isNumber }, at) => (
                  <th key={at} className={`py-1 pr-3 font-normal ${isNumber ? 'text-right' : ''}`}>
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {block.rows.map(({ cells, isMarked }, row) => (
                <tr
                  key={row}
                  className={`break-inside-avoid border-b border-rule align-baseline ${isMarked ? 'text-over' : ''}`}
                >
                  {cells.map((cell, at) => (
                    <td
                      key={at}
                      className={`py-0.5 pr-3 ${block.head[at].isNumber ? 'figures text-right whitespace-nowrap' : ''}`}
                    >
                      {cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      );
    case 'steps':
      return (
        <ol aria-label={block.label} className="mt-1 grid max-w-[80ch] gap-1.5 text-[13.5px]">
          {block.steps.map(({ id, title, text }, at) => {
            const key = `${section} ${id}`;
            const done = doneAt(key);
            return (
              <li
                key={id}
                className="grid break-inside-avoid grid-cols-[1.25rem_1.75rem_minmax(0,1fr)] items-baseline"
                data-sheet-step={key}
              >
                <input
                  type="checkbox"
                  className="size-3.5 self-start justify-self-start accent-copper mt-[3px]"
                  checked={done !== null}
                  onChange={(event) => onTick(key, event.target.checked)}
                  aria-label={`Done: ${title || text}`}
                />
                <span className="figures text-soft">{at + 1}.</span>
                <span>
                  {title ? <strong className="font-semibold">{title}. </strong> : null}
                  {text}
                </span>
              </li>
            );
          })}
        </ol>
      );
  }
}
