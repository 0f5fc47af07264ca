import Papa from 'papaparse';
import { periodOf, readScopeRows, wholePeriodOf, type ScopePeriod } from '@/core/drive/scope-record';

const MOST_BYTES = 20e6;

type Read = ({ ok: true } & ScopePeriod) | { ok: false; reason: string };

/** One period of a drive from an oscilloscope's CSV file, or what is wrong with it. */
export const readScopeFile = (file: File): Promise<Read> => periodIn(file, periodOf);

/** The same of any voltage, which need not change sign. */
export const readAnyScopeFile = (file: File): Promise<Read> => periodIn(file, wholePeriodOf);

/** Where numbers have decimal commas, semicolons or tabs part them. */
async function periodIn(file: File, find: typeof periodOf): Promise<Read> {
  if (file.size > MOST_BYTES) return { ok: false, reason: 'The file is over 20 MB: save a shorter stretch.' };
  const text = (await file.text()).replace(/^\uFEFF/, '');
  const head = text.trim().split('\n', 50);
  const delimiter = [';', '\t'].find((mark) => head.filter((line) => line.includes(mark)).length > head.length / 2);
  const { data } = Papa.parse<string[]>(text, { skipEmptyLines: true, delimiter: delimiter ?? ',' });
  const record = readScopeRows(data);
  return record.ok ? find(record) : record;
}
