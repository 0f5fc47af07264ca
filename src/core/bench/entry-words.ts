import { formatQuantity } from '../quantity/format-quantity';
import { IDLE, type ReadingKind } from './entries';

/** Where a reading was taken, in words that follow its name; empty for nowhere in particular. */
export function placeWords(kind: ReadingKind, at: string): string {
  if (at === '') return '';
  switch (kind) {
    case 'frequency':
      return `, with ${formatQuantity(Number(at), 'F')}`;
    case 'loaded':
      return `, ${formatQuantity(Number(at), 'A')}`;
    case 'output':
    case 'supply-current':
      return at === IDLE ? ', without load' : ` at ${formatQuantity(Number(at), '%')}`;
    default:
      return `, ${at}`;
  }
}
