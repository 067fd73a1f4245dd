// Single changes to the code that the tests have to notice: `npm run mutate -- core/src/ledger`. See scripts/mutate.mjs.
export default {
  testRunner: 'vitest',
  vitest: { configFile: 'vitest.mutate.config.ts' },
  plugins: ['@stryker-mutator/vitest-runner'],
  coverageAnalysis: 'perTest',
  ignoreStatic: true,
  // What is said in words is checked where a word is a fact; other words may change.
  mutator: { excludedMutations: ['StringLiteral'] },
  reporters: ['clear-text', 'json'],
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false, reportScoreTable: true },
  jsonReporter: { fileName: '.data/mutation.json' },
  tempDirName: '.data/mutation',
  ignorePatterns: ['/.data', '/docs/screenshots', '/e2e', '/bench', '**/dist'],
  concurrency: 2,
  timeoutMS: 20_000,
  disableTypeChecks: true,
  allowEmpty: true,
}
