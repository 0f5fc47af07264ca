import { readFileSync } from 'node:fs';
import { readDesignText } from '../src/core/design/read-design';
import { predict } from '../src/core/predict/predict';

/**
 * `npm run -s predict -- FILE`, or `-` for standard input: the prediction as
 * JSON on standard output. Bad input: exit 2, nothing on standard output, one
 * line a fault on standard error.
 */
function main(words: readonly string[]): number {
  const complain = (line: string) => process.stderr.write(`${line}\n`);
  const options = words.filter((word) => word.startsWith('-') && word !== '-');
  const files = words.filter((word) => !options.includes(word));
  if (options.includes('--transient')) {
    complain('--transient: is not computed by this version; leave it out for the closed form');
    return 2;
  }
  if (options.length > 0 || files.length !== 1) {
    complain(
      `${options[0] ?? 'arguments'}: not understood; use: npm run -s predict -- FILE.ladder.json, or - for standard input`,
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
  process.stdout.write(`${JSON.stringify(predict(reading.design), null, 2)}\n`);
  return 0;
}

process.exitCode = main(process.argv.slice(2));
