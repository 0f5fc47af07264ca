import next from 'eslint-config-next/core-web-vitals';
import typescript from 'eslint-config-next/typescript';

/** Where React may be: .dependency-cruiser.mjs holds the borders, which sees type imports as well. */
const REACT = ['src/{app,client,screens,ui}/**/*.{ts,tsx}'];

const config = [
  { ignores: ['.next/**', '.data/**', 'node_modules/**', 'next-env.d.ts', 'test-results/**'] },
  ...next.map((part) => (part.rules ? { ...part, files: REACT } : part)),
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
