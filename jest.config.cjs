/** Unit tests of core, server and demo; the browser's are in e2e/. */
module.exports = {
  testEnvironment: 'node',
  // A slow machine is no failure.
  testTimeout: 60_000,
  roots: [
    '<rootDir>/core',
    '<rootDir>/contract',
    '<rootDir>/server',
    '<rootDir>/demo',
    '<rootDir>/web',
  ],
  testMatch: ['**/*.test.ts'],
  extensionsToTreatAsEsm: [],
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      {
        jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true } },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: [],
};
