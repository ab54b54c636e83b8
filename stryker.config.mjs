import jest from './jest.config.cjs';

/**
 * Mutation tests of one part of core: every small change to it is to be found by one of its own tests. By hand, one part at
 * a time: `npm run mutants -- sending`.
 */
const part = process.env.MUTATED ?? 'sending';

export default {
  testRunner: 'jest',
  mutate: [
    `core/src/${part}/**/*.ts`,
    `!core/src/${part}/**/*.test.ts`,
    `!core/src/${part}/**/testing*.ts`,
    `!core/src/${part}/**/index.ts`,
  ],
  jest: {
    // The part's own tests: what others find of it besides would take hours.
    config: { ...jest, roots: [`<rootDir>/core/src/${part}`] },
    enableFindRelatedTests: true,
  },
  coverageAnalysis: 'perTest',
  ignoreStatic: true,
  concurrency: 2,
  timeoutMS: 20_000,
  disableTypeChecks: true,
  // What words say is tested where they matter; not each of them.
  mutator: { excludedMutations: ['StringLiteral'] },
  reporters: ['clear-text', 'progress-append-only'],
  clearTextReporter: { logTests: false, allowColor: false },
  tempDirName: 'mutants-tmp',
  ignorePatterns: ['docs', 'e2e', 'bench', 'web/dist', 'server/dist', 'test-results'],
};
