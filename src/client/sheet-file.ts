import { format } from 'date-fns';
import Papa from 'papaparse';
import type { PartsList } from '@/core/build/parts-list';
import { reportOf } from '@/core/build/report';
import { partsTable, sheetMarkdown } from '@/core/build/sheet-files';
import type { SheetSection } from '@/core/build/sections/blocks';
import type { Design } from '@/core/design/design-schema';
import type { Prediction } from '@/core/predict/prediction';
import type { Counting } from '@/core/quantity/counting';
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

/** Hands all that is predicted of a design over as a Markdown file. */
export const downloadReport = (design: Design, prediction: Prediction, counting: Counting): void =>
  downloadText(
    designFileName(design.name, 'report.md'),
    'text/markdown',
    sheetMarkdown(design.name, `Predicted ${format(new Date(), 'd MMM yyyy')}`, reportOf(design, prediction, counting)),
  );
