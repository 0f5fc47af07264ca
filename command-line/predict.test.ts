import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { newDesign } from '../src/core/design/new-design';
import { predict } from '../src/core/predict/predict';
import { answer } from './answer';

const TRIPLER = 'demo/teaching-tripler.ladder.json';
const asked = (words: string[], input = '') =>
  answer(words, (file) => (file === '-' ? input : readFileSync(file, 'utf8')));
const parsed = (...words: string[]) => JSON.parse(asked([...words, TRIPLER]).out);

describe('the command itself', () => {
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
  it('complains on standard error alone, and exits with 2', () => {
    const { status, stdout, stderr } = run(['nowhere.ladder.json']);
    expect([status, stdout]).toEqual([2, '']);
    expect(stderr).toMatch(/nowhere\.ladder\.json: cannot be read \(ENOENT\)/);
  });
});

it('reads a demo file', () => {
  expect(parsed().output.meanVolts).toBeGreaterThan(45);
});

it('adds the settled time domain when asked, without waveforms', () => {
  const { out } = asked(['--transient', TRIPLER]);
  const { output, transient, idle } = JSON.parse(out);
  expect(transient.converged).toBe(true);
  // Its waveform was measured: nothing is known of what draws.
  expect(idle).toBeNull();
  expect(Math.abs(transient.meanVolts / output.meanVolts - 1)).toBeLessThan(0.05);
  expect(out.length).toBeLessThan(30_000);
});

it('charges up from dead, discharges from there through the resistor named, and spreads', () => {
  const whole = parsed('--charge-up', '--discharge', '2.2M', '--tolerance');
  const { output, chargeUp, discharge, tolerance } = whole;
  expect(chargeUp.reached.at(-1).seconds).toBeGreaterThan(0);
  expect(discharge.ohms).toBe(2.2e6);
  expect(discharge.joules.end).toBeLessThan(discharge.joules.start);
  expect(tolerance.meanVolts.low).toBeLessThan(output.meanVolts);
  expect(tolerance.meanVolts.high).toBeGreaterThan(output.meanVolts);
  expect(tolerance.leastVolts).toBeLessThanOrEqual(tolerance.meanVolts.low);
  expect(whole).not.toHaveProperty('transient');
});

it('gives all parts at once; a discharge only where something discharges', () => {
  const whole = parsed('--all');
  expect(Object.keys(whole)).toEqual(expect.arrayContaining(['transient', 'chargeUp', 'discharge', 'tolerance']));
  expect(whole.discharge).toBeNull();
  expect(parsed('--all', '--discharge', '1M').discharge.ohms).toBe(1e6);
});

it('has nothing to charge, discharge or spread where nothing rectifies, and says so with null', () => {
  const plain = newDesign('Straight');
  const straight = { ...plain, ladder: { ...plain.ladder, topology: 'none' }, load: { kind: 'resistance', ohms: 1e6 } };
  const whole = JSON.parse(asked(['--all', '--discharge', '1M', '-'], JSON.stringify(straight)).out);
  expect(whole.transient.rmsVolts / whole.output.alternating.rmsVolts).toBeCloseTo(1, 2);
  expect([whole.chargeUp, whole.discharge, whole.tolerance]).toEqual([null, null, null]);
});

it.each<[string, string[], string, RegExp]>([
  ['text that is not JSON', ['-'], '{', /^\$: is not JSON/],
  ['a bad field', ['-'], JSON.stringify({ ...newDesign('x'), name: 7 }), /^\$\.name: is 7; must be a name/],
  ['a file that is not there', ['nowhere.ladder.json'], '', /nowhere\.ladder\.json: cannot be read \(ENOENT\)/],
  ['no file', [], '', /not understood/],
  ['two files', [TRIPLER, TRIPLER], '', /not understood/],
  ['an unknown option', ['--fast', '-'], '', /--fast: not understood/],
  ['a discharge through nothing', ['--discharge', '0', '-'], '', /--discharge 0: not understood/],
  ['a discharge without its ohms', ['--discharge', TRIPLER], '', /--discharge demo.*: not understood/],
])('%s: status 2, nothing to print, one line a fault', (_case, words, input, line) => {
  const { status, out, complaints } = asked(words, input);
  expect([status, out]).toEqual([2, '']);
  expect(complaints).toHaveLength(1);
  expect(complaints[0]).toMatch(line);
});

it('gives every fault its own line', () => {
  const design = newDesign('x');
  const { complaints } = asked(
    ['-'],
    JSON.stringify({ ...design, name: '', ladder: { ...design.ladder, stages: 0.7 } }),
  );
  expect(complaints.map((line) => line.split(':')[0])).toEqual(['$.name', '$.ladder.stages']);
});
