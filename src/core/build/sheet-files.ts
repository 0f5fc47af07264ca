import type { PartsList } from './parts-list';
import type { Block, SheetSection } from './sections/blocks';

/** Letters that Markdown would take for its own; a cell must not end its column. */
const plain = (text: string): string => text.replaceAll('\u00a0', ' ').replace(/([\\`*_[\]<>#|])/g, '\\$1');

function blockLines(block: Block): string[] {
  switch (block.kind) {
    case 'text':
      return [`${block.isWarning ? '**Warning.** ' : ''}${plain(block.text)}`];
    case 'table': {
      const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`;
      return [
        line(block.head.map(({ name }) => plain(name))),
        line(block.head.map(({ isNumber }) => (isNumber ? '---:' : '---'))),
        ...block.rows.map(({ cells }) => line(cells.map(plain))),
      ];
    }
    case 'steps':
      return block.steps.map(
        ({ title, text }, at) => `${at + 1}. ${title ? `**${plain(title)}.** ` : ''}${plain(text)}`,
      );
    case 'winding':
      return ['The winding cut through is a picture of its own.'];
    case 'layout':
      return ['The layout to scale is a picture of its own.'];
    case 'wiring':
      return ['The wiring diagram is a picture of its own.'];
  }
}

/**
 * A sheet as Markdown.
 *
 * @param about revision and date, in words
 */
export function sheetMarkdown(name: string, about: string, sections: readonly SheetSection[]): string {
  return [
    `# ${plain(name)}`,
    plain(about),
    ...sections.flatMap(({ title, blocks }) => [
      `## ${plain(title)}`,
      ...blocks.map((block) => blockLines(block).join('\n')),
    ]),
  ]
    .join('\n\n')
    .concat('\n');
}

/** A parts list as rows of a table file under their names, numbers bare; what is not known is empty. */
export const partsTable = ({ rows }: PartsList): Record<string, string | number>[] =>
  rows.map(({ name, each, count, standing, free, missing, cost }) => ({
    part: name,
    each: each.replaceAll('\u00a0', ' '),
    number: count,
    standing,
    free: free ?? '',
    missing: missing ?? '',
    cost: cost ?? '',
  }));
