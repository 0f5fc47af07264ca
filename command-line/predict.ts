import { readFileSync } from 'node:fs';
import { readDesignText } from '../src/core/design/read-design';
import { predict } from '../src/core/predict/predict';
import { finish, transientOf } from '../src/core/transient/transient';

/**
 * `npm run -s predict -- FILE`, or `-` for standard input: the prediction as
 * JSON on standard output, with `--transient` the settled time domain as well
 * (its waveforms left out). Bad input: exit 2, nothing on standard output, one
 * line a fault on standard error.
 */
function main(words: readonly string[]): number {
  const complain = (line: string) => process.stderr.write(`${line}\n`);
  const options = words.filter((word) => word.startsWith('-') && word !== '-');
  const files = words.filter((word) => !options.includes(word));
  const unknown = options.filter((option) => option !== '--transient');
  if (unknown.length > 0 || files.length !== 1) {
    complain(
      `${unknown[0] ?? 'arguments'}: not understood; use: npm run -s predict -- [--transient] FILE.ladder.json, or - for standard input`,
    );
    return 2;
  }
  let text: string;
  try {
    text = readFileSync(files[0] === '-' ? 0 : files[0], 'utf8');
  } catch (error) {
    complain(
      `${files[0]}: cannot be read (${(error as NodeJS.ErrnoException).code}); name a design file, or - for standard input`,
    );
    return 2;
  }
  const reading = readDesignText(text);
  if (!reading.ok) {
    for (const fault of reading.faults) complain(`${fault.path}: ${fault.message}`);
    return 2;
  }
  const prediction = predict(reading.design);
  const whole = options.includes('--transient')
    ? { ...prediction, transient: finish(transientOf(reading.design)).transient }
    : prediction;
  process.stdout.write(`${JSON.stringify(whole, null, 2)}\n`);
  return 0;
}

process.exitCode = main(process.argv.slice(2));
