import { slicer } from './in-slices';

/** Counts to a number, each count taking some of a slice's time. */
function* counting(to: number, log: string[], name: string): Generator<number, string> {
  for (let count = 1; count <= to; count += 1) {
    for (const until = performance.now() + 5; performance.now() < until;);
    log.push(`${name}${count}`);
    yield count;
  }
  return `${name} done`;
}

it('gives the result, and reports now and then on the way', async () => {
  const reports: number[] = [];
  const log: string[] = [];
  const result = await slicer(['count']).run('count', counting(20, log, 'a'), (count) => reports.push(count));
  expect(result).toBe('a done');
  expect(log).toHaveLength(20);
  expect(reports.length).toBeGreaterThan(0);
  expect(reports.length).toBeLessThan(20);
  expect(reports).toEqual([...reports].sort((a, b) => a - b));
});

it('a later request of a kind ends the one before, which gives null and works no further', async () => {
  const log: string[] = [];
  const slices = slicer(['count']);
  const first = slices.run('count', counting(200, log, 'a'), () => undefined);
  const second = slices.run('count', counting(3, log, 'b'), () => undefined);
  expect(await Promise.all([first, second])).toEqual([null, 'b done']);
  expect(log.filter((line) => line.startsWith('a')).length).toBeLessThan(50);
});

it('kinds go on beside each other, and cancelling one leaves the other', async () => {
  const log: string[] = [];
  const slices = slicer(['slow', 'quick']);
  const slow = slices.run('slow', counting(40, log, 's'), () => undefined);
  const quick = slices.run('quick', counting(8, log, 'q'), () => undefined);
  expect(await quick).toBe('q done');
  expect(log.indexOf('q8')).toBeLessThan(log.length + 1);
  expect(log.filter((line) => line.startsWith('s')).length).toBeLessThan(40);
  slices.cancel('quick');
  expect(await slow).toBe('s done');
});

it('cancelled work gives null', async () => {
  const slices = slicer(['count']);
  const running = slices.run('count', counting(200, [], 'a'), () => undefined);
  slices.cancel('count');
  expect(await running).toBeNull();
});

it('what work throws reaches whoever asked', async () => {
  const failing = (function* (): Generator<number, never> {
    yield 1;
    throw new RangeError('no such state');
  })();
  await expect(slicer(['count']).run('count', failing, () => undefined)).rejects.toThrow('no such state');
});
