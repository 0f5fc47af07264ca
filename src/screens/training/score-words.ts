import type { Score } from '@/client/training-store';

/** "12 rounds, 9 right, 1.3 readings more than the best order on average". */
export function scoreWords(scores: readonly Score[]): string {
  if (scores.length === 0) return 'no round yet';
  const right = scores.filter(({ isRight }) => isRight);
  const rounds = `${scores.length} ${scores.length === 1 ? 'round' : 'rounds'}, ${right.length} right`;
  if (right.length === 0) return rounds;
  const over = right.reduce((sum, { readings, best }) => sum + readings - best, 0) / right.length;
  const size = Math.abs(over).toFixed(1);
  if (Number(size) === 0) return `${rounds}, with as few readings as the best order`;
  return `${rounds}, ${size} readings ${over > 0 ? 'more' : 'fewer'} than the best order on average`;
}
