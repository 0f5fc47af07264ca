import next from 'eslint-config-next/core-web-vitals';
import typescript from 'eslint-config-next/typescript';

/** The borders of docs/house.md: what each folder may import from ours. */
const zones = [
  {
    target: './src/core',
    from: ['./src/app', './src/screens', './src/ui', './src/server', './src/client', './src/worker'],
  },
  { target: './src/worker', from: ['./src/app', './src/screens', './src/ui', './src/server', './src/client'] },
  { target: './src/server', from: ['./src/app', './src/screens', './src/ui', './src/client'] },
  { target: './src/screens', from: ['./src/server', './src/app'] },
  { target: './src/client', from: ['./src/server', './src/app', './src/screens', './src/ui'] },
  { target: './src/ui', from: ['./src/server', './src/app', './src/screens', './src/client'] },
  { target: './src/ui', from: './src/core', except: ['./quantity'] },
  ...['shelf', 'design', 'drawer', 'choose'].map((screen) => ({
    target: `./src/screens/${screen}`,
    from: './src/screens',
    except: [`./${screen}`],
  })),
];

const NODE_MODULES_IN_CORE = {
  group: ['*', '!.', '!..', '!./**', '!../**', '!zod'],
  message: 'src/core is pure: it imports itself and zod only.',
};

const config = [
  { ignores: ['.next/**', '.data/**', 'node_modules/**', 'next-env.d.ts', 'test-results/**'] },
  ...next,
  ...typescript,
  {
    settings: { 'import/resolver': { typescript: { alwaysTryTypes: true } } },
    rules: {
      'import/no-cycle': ['error', { ignoreExternal: true }],
      'import/no-restricted-paths': ['error', { zones }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-console': ['error', { allow: ['error'] }],
    },
  },
  {
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: { '@typescript-eslint/no-restricted-imports': ['error', { patterns: [NODE_MODULES_IN_CORE] }] },
  },
];

export default config;
