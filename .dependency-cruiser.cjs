/** Arrows only go down: web → contract → core; server → contract → core. Nothing imports server or web, but the demo, which plays through the server. */
module.exports = {
  forbidden: [
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^core/src', pathNot: '\\.test\\.ts$' },
      to: { pathNot: ['^core/src', 'big\\.js'] },
    },
    {
      name: 'contract-on-core-only',
      severity: 'error',
      from: { path: '^contract/src', pathNot: '\\.test\\.ts$' },
      to: { pathNot: ['^contract/src', '^core/src/index', 'zod'] },
    },
    {
      name: 'core-by-its-door',
      severity: 'error',
      from: { path: '^(contract|server|web|demo)/' },
      to: { path: '^core/src', pathNot: '^core/src/index\\.ts$' },
    },
    { name: 'nothing-imports-server', severity: 'error', from: { path: '^(core|contract|web)/' }, to: { path: '^server/' } },
    { name: 'server-by-its-door', severity: 'error', from: { path: '^demo/' }, to: { path: '^server/src', pathNot: '^server/src/index\\.ts$' } },
    { name: 'nothing-imports-web', severity: 'error', from: { path: '^(core|contract|server|demo)/' }, to: { path: '^web/' } },
    { name: 'server-not-on-demo', severity: 'error', from: { path: '^server/src' }, to: { path: '^demo/' } },
    {
      name: 'pieces-fetch-nothing-of-a-page',
      severity: 'error',
      from: { path: '^web/src/pieces' },
      to: { path: '^web/src/(today|define|attach|run|record|contain|trace|people|gallery)/' },
    },
    {
      name: 'only-tests-use-test-support',
      severity: 'error',
      from: { pathNot: ['\\.test\\.ts$', '^server/src/testing'] },
      to: { path: '^server/src/testing' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|node_modules)/' },
    tsConfig: { fileName: 'tsconfig.base.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.vue', '.js', '.json'],
    },
  },
}
