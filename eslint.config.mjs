import next from 'eslint-config-next/core-web-vitals';
import typescript from 'eslint-config-next/typescript';

// Borders and circles are held by .dependency-cruiser.mjs, which sees type imports as well.
const config = [
  { ignores: ['.next/**', '.data/**', 'node_modules/**', 'next-env.d.ts', 'test-results/**'] },
  ...next,
  ...typescript,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-console': ['error', { allow: ['error'] }],
    },
  },
];

export default config;
