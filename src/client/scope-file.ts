import Papa from 'papaparse';
import { periodOf, readScopeRows, type ScopePeriod } from '@/core/drive/scope-record';

const MOST_BYTES = 20e6;

/** One period from an oscilloscope's CSV file, or what is wrong with it. Where numbers have decimal commas, semicolons or tabs part them. */
export async function readScopeFile(file: File): Promise<({ ok: true } & ScopePeriod) | { ok: false; reason: string }> {
  if (file.size > MOST_BYTES) return { ok: false, reason: 'The file is over 20 MB: save a shorter stretch.' };
  const text = (await file.text()).replace(/^\uFEFF/, '');
  const head = text.trim().split('\n', 50);
  const delimiter = [';', '\t'].find((mark) => head.filter((line) => line.includes(mark)).length > head.length / 2);
  const { data } = Papa.parse<string[]>(text, { skipEmptyLines: true, delimiter: delimiter ?? ',' });
  const record = readScopeRows(data);
  return record.ok ? periodOf(record) : record;
}
