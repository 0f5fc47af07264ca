import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { newDesign } from '../src/core/design/new-design';
import { predict } from '../src/core/predict/predict';

const run = (words: string[], input = '') =>
  spawnSync(process.execPath, ['--import', 'tsx', path.resolve('command-line/predict.ts'), ...words], {
    input,
    encoding: 'utf8',
  });

it('prints the prediction of standard input as the core computes it', () => {
  const design = newDesign('from the command line');
  const { status, stdout, stderr } = run(['-'], JSON.stringify(design));
  expect([status, stderr]).toEqual([0, '']);
  expect(JSON.parse(stdout)).toEqual(JSON.parse(JSON.stringify(predict(design))));
});

it('reads a demo file', () => {
  const { status, stdout } = run(['demo/teaching-tripler.ladder.json']);
  expect(status).toBe(0);
  expect(JSON.parse(stdout).output.meanVolts).toBeGreaterThan(45);
});

it('adds the settled time domain when asked, without waveforms', () => {
  const { status, stdout } = run(['--transient', 'demo/teaching-tripler.ladder.json']);
  expect(status).toBe(0);
  const { output, transient } = JSON.parse(stdout);
  expect(transient.converged).toBe(true);
  expect(Math.abs(transient.meanVolts / output.meanVolts - 1)).toBeLessThan(0.05);
  expect(stdout.length).toBeLessThan(30_000);
});

it.each<[string, string[], string, RegExp]>([
  ['text that is not JSON', ['-'], '{', /^\$: is not JSON/],
  ['a bad field', ['-'], JSON.stringify({ ...newDesign('x'), name: 7 }), /^\$\.name: is 7; must be a name/],
  ['a file that is not there', ['nowhere.ladder.json'], '', /nowhere\.ladder\.json: cannot be read \(ENOENT\)/],
  ['no file', [], '', /not understood/],
  ['an unknown option', ['--fast', '-'], '', /--fast: not understood/],
])('%s: exit 2, nothing on standard output, one line a fault', (_case, words, input, line) => {
  const { status, stdout, stderr } = run(words, input);
  expect([status, stdout]).toEqual([2, '']);
  expect(stderr.trim().split('\n')).toHaveLength(1);
  expect(stderr).toMatch(line);
});

it('gives every fault its own line', () => {
  const design = newDesign('x');
  const { stderr } = run(['-'], JSON.stringify({ ...design, name: '', ladder: { ...design.ladder, stages: 0.7 } }));
  expect(
    stderr
      .trim()
      .split('\n')
      .map((line) => line.split(':')[0]),
  ).toEqual(['$.name', '$.ladder.stages']);
});
