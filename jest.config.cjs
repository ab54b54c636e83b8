/** Unit tests of every part; of the interface those that need no browser, which are in e2e/. */
module.exports = {
  testEnvironment: require.resolve('./scripts/jest/environment.cjs'),
  // A slow machine is no failure.
  testTimeout: 60_000,
  roots: [
    '<rootDir>/core',
    '<rootDir>/contract',
    '<rootDir>/server',
    '<rootDir>/demo',
    '<rootDir>/web',
    '<rootDir>/bench',
  ],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  setupFiles: ['<rootDir>/web/src/testing/setup.cjs'],
  moduleNameMapper: {
    '^mjml$': '<rootDir>/scripts/jest/mjml.cjs',
    '\\.css$': '<rootDir>/web/src/testing/styles.cjs',
    '/blocks/specialForms$': '<rootDir>/web/src/testing/specialForms.ts',
  },
  extensionsToTreatAsEsm: [],
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: [],
};
