import { readFileSync } from 'node:fs';
import { answer } from './answer';

const { status, out, complaints } = answer(process.argv.slice(2), (file) =>
  readFileSync(file === '-' ? 0 : file, 'utf8'),
);
for (const line of complaints) process.stderr.write(`${line}\n`);
process.stdout.write(out);
process.exitCode = status;
