import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './build';

/**
 * `npm run references`: makes anew what tests compare with: every integration
 * by odex, and the figures of the demo designs. It takes some minutes; what
 * changes is to be read like any other change.
 */
const tests = readdirSync(path.join(ROOT, 'src'), { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.test.ts'))
  .map((file) => path.join(ROOT, 'src', file))
  .filter((file) =>
    /\b(recorded|integratedLadder|integrateCircuit|integratedFlyback|integratedSupply|writeRecord)\b/.test(
      readFileSync(file, 'utf8'),
    ),
  );
for (const folder of ['integrations', 'predictions'])
  rmSync(path.join(ROOT, 'tests/reference', folder), { recursive: true, force: true });
const jest = path.join(ROOT, 'node_modules/jest/bin/jest.js');
// One after another: they write into the same files.
const { status } = spawnSync(process.execPath, [jest, '--runInBand', ...tests], {
  cwd: ROOT,
  stdio: 'inherit',
  env: { ...process.env, REFERENCES: 'write' },
});
process.exitCode = status ?? 1;
