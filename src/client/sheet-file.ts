import Papa from 'papaparse';
import type { PartsList } from '@/core/build/parts-list';
import { partsTable, sheetMarkdown } from '@/core/build/sheet-files';
import type { SheetSection } from '@/core/build/sheet';
import { designFileName, downloadText } from './design-file';

/** Hands a build sheet over as a Markdown file. */
export const downloadSheet = (name: string, about: string, sections: readonly SheetSection[]): void =>
  downloadText(designFileName(name, 'build-sheet.md'), 'text/markdown', sheetMarkdown(name, about, sections));

/** Hands the parts of a design over as a CSV file. */
export const downloadParts = (name: string, parts: PartsList): void =>
  downloadText(
    designFileName(name, 'parts.csv'),
    'text/csv',
    `${Papa.unparse(partsTable(parts), { newline: '\n' })}\n`,
  );
