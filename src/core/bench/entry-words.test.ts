import { placeWords } from './entry-words';

it.each([
  ['tap', 'B1', ', B1'],
  ['output', '0.25', ' at 25.0 %'],
  ['supply-current', 'idle', ', without load'],
  ['loaded', '0.00001', ', 10.0 µA'],
  ['frequency', '4.7e-7', ', with 470 nF'],
  ['frequency', '', ''],
  ['gap', '', ''],
] as const)('%s at %j is said so', (kind, at, words) => {
  expect(placeWords(kind, at).replaceAll(/\s/g, ' ')).toBe(words);
});
