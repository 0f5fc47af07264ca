import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

const ROOT = path.resolve(__dirname, '..');
let house: string;

// A small house of its own with the project's rules, so that each border is tried by breaking it.
beforeEach(() => {
  house = mkdtempSync(path.join(tmpdir(), 'house-'));
  for (const file of ['.dependency-cruiser.mjs', 'tsconfig.json', 'package.json'])
    cpSync(path.join(ROOT, file), path.join(house, file));
  symlinkSync(path.join(ROOT, 'node_modules'), path.join(house, 'node_modules'));
  put('src/core/quantity/units.ts', 'export type Unit = string;');
  put(
    'src/core/predict/predict.ts',
    "import type { Unit } from '../quantity/units';\nexport type Prediction = Unit;\nexport const predict = (): Prediction => '';",
  );
  put('src/server/pool.ts', 'export const pool = 1;');
});
afterEach(() => rmSync(house, { recursive: true, force: true }));

function put(file: string, text: string): void {
  const whole = path.join(house, file);
  mkdirSync(path.dirname(whole), { recursive: true });
  writeFileSync(whole, `${text}\n`);
}

/** Rules that the house breaks, and the files that break them. */
function breaches(): { rule: string; from: string }[] {
  const cruise = path.join(ROOT, 'node_modules/dependency-cruiser/bin/dependency-cruise.mjs');
  const { stdout, status } = spawnSync(process.execPath, [cruise, '--config', '.dependency-cruiser.mjs', 'src'], {
    cwd: house,
    encoding: 'utf8',
    env: { ...process.env, NO_COLOR: '1' },
  });
  const found = [...stdout.matchAll(/error ([\w-]+): (\S+)/g)].map(([, rule, from]) => ({ rule, from }));
  // Lint goes by how the command ends.
  expect(status === 0).toBe(found.length === 0);
  return found;
}

it('a house that keeps to the borders passes', () => expect(breaches()).toEqual([]));

const BREACHES: [string, string, string, string][] = [
  [
    'a value from a higher layer of the core',
    'src/core/quantity',
    "import { top } from '../predict/top';\nexport const bad = top;",
    'core-quantity',
  ],
  [
    'a mere type from a higher layer of the core',
    'src/core/quantity',
    "import type { Prediction } from '../predict/predict';\nexport type Bad = Prediction;",
    'core-quantity',
  ],
  [
    'the core reaching out of the core',
    'src/core/predict',
    "import { pool } from '../../server/pool';\nexport const bad = pool;",
    'core-predict',
  ],
  [
    'a screen reaching for the database',
    'src/screens/shelf',
    "import { pool } from '@/server/pool';\nexport const bad = pool;",
    'only-app-reaches-the-server',
  ],
  [
    'one screen borrowing from another',
    'src/screens/shelf',
    "import { part } from '../drawer/part';\nexport const bad = part;",
    'screen-shelf',
  ],
  [
    'a control that knows the core’s predictions',
    'src/ui',
    "import type { Prediction } from '@/core/predict/predict';\nexport type Bad = Prediction;",
    'ui',
  ],
  [
    'a request that computes what others then wait for',
    'src/server',
    "import { predict } from '@/core/predict/predict';\nexport const bad = predict;",
    'computed-beside-requests',
  ],
];

it('every border that is crossed is named, and nobody else', () => {
  put('src/core/predict/top.ts', 'export const top = 1;');
  put('src/screens/drawer/part.ts', 'export const part = 1;');
  BREACHES.forEach(([, folder, text], at) => put(`${folder}/bad${at}.ts`, text));
  const found = breaches();
  for (const [what, folder, , rule] of BREACHES) {
    const named = found.filter(({ rule: name, from }) => name === rule && from.startsWith(folder));
    expect([what, named.length > 0]).toEqual([what, true]);
  }
  expect(found.filter(({ from }) => !/\/bad\d+\.ts$/.test(from))).toEqual([]);
});

it('a circle is refused, though it be of types alone and within one layer', () => {
  put('src/core/predict/one.ts', "import type { Two } from './two';\nexport type One = Two[];");
  put('src/core/predict/two.ts', "import type { One } from './one';\nexport type Two = One | null;");
  expect([...new Set(breaches().map(({ rule }) => rule))]).toEqual(['no-circle']);
});
