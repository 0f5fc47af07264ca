/** @type {import('jest').Config} */
const config = {
  testEnvironment: 'node',
  maxWorkers: 2,
  // A loaded machine may be many times slower; what hangs still ends.
  testTimeout: 60_000,
  // Jest runs files in a context of their own, in which each look at a global is slow; as arguments they are not.
  sandboxInjectedGlobals: ['Math', 'Number', 'Infinity', 'Array', 'Object', 'Map', 'Set', 'JSON', 'Float64Array'],
  setupFiles: ['<rootDir>/setup/unit-database.mjs'],
  roots: ['<rootDir>/src', '<rootDir>/command-line', '<rootDir>/setup'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  transform: {
    '^.+\\.m?[tj]sx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { react: { runtime: 'automatic' } },
        },
      },
    ],
  },
  transformIgnorePatterns: [
    '/node_modules/(?!(d3-[a-z-]+|internmap|node-pg-migrate|@tanstack|glob|minimatch|path-scurry|@scure|lru-cache|ml-[a-z-]+|is-any-array)/)',
  ],
};

export default config;
