const compile = [
  '@swc/jest',
  {
    jsc: {
      target: 'es2022',
      parser: { syntax: 'typescript', tsx: true },
      transform: { react: { runtime: 'automatic' } },
    },
  },
]
const transform = { '^.+\\.tsx?$': compile }
// These ship as modules only, which CommonJS tests cannot load as they are.
const MODULES_ONLY = ['temporal-polyfill', 'temporal-utils', 'iso-3166']
const transformed = {
  transform: { '^.+\\.[jt]sx?$': compile },
  transformIgnorePatterns: [`/node_modules/(?!(${MODULES_ONLY.join('|')})/)`],
}
const moduleNameMapper = {
  '^@/(.*)$': '<rootDir>/src/$1',
  '^@tests/(.*)$': '<rootDir>/tests/$1',
  '^server-only$': '<rootDir>/tests/fixtures/server-only.ts',
}
const common = { transform, moduleNameMapper, testEnvironment: 'node' }

/** Unit tests of what needs no database; tests of the database; journeys in a real browser. */
const config = {
  // What takes a second takes five where a machine is shared.
  testTimeout: 30_000,
  projects: [
    {
      ...common,
      ...transformed,
      displayName: 'unit',
      testMatch: ['<rootDir>/tests/{core,features,ui}/**/*.test.ts', '<rootDir>/tests/docs/**/*.test.ts'],
    },
    {
      ...common,
      displayName: 'server',
      testMatch: ['<rootDir>/tests/server/**/*.test.ts'],
      extensionsToTreatAsEsm: ['.ts', '.tsx'],
      setupFiles: ['<rootDir>/tests/server/fixed-clock.ts'],
      globalSetup: '<rootDir>/tests/server/make-fresh-data.ts',
      globalTeardown: '<rootDir>/tests/server/remove-fresh-data.ts',
    },
    {
      ...common,
      ...transformed,
      displayName: 'browser',
      testMatch: ['<rootDir>/tests/browser/**/*.test.ts'],
      globalSetup: '<rootDir>/tests/browser/start-server.ts',
      globalTeardown: '<rootDir>/tests/browser/stop-server.ts',
    },
  ],
}

export default config
