/**
 * Folders from the ground up, rooms within them too: each may use those before it. Tests stand outside: they may build on everything.
 * A folder that is not in the list fails too, so that nobody puts one beside the floors; so no circle of folders can be.
 */
function goesDown(root, floors, also = '') {
  const test = '\\.test\\.ts$'
  return [
    ...floors.slice(0, -1).map((floor, i) => ({
      name: `${root}/${floor}-uses-only-what-is-below`,
      severity: 'error',
      from: { path: `^${root}/src/${floor}/[^/]+$`, pathNot: test },
      to: { path: `^${root}/src/(${floors.slice(i + 1).join('|')})/[^/]+$` },
    })),
    {
      name: `${root}-has-only-its-floors`,
      severity: 'error',
      from: { path: `^${root}/src/.+/`, pathNot: [`^${root}/src/((${floors.join('|')})/[^/]+$|(${also || '-'})/)`, test] },
      to: {},
    },
  ]
}

/** The rooms of a word of the rail; nothing stands for what lies in its own folder. */
const rooms = (word, names) => names.map((name) => (name === '' ? word : `${word}/${name}`))
const areas = ['today', 'define', 'attach', 'run', 'record', 'contain', 'trace', 'equip', 'people', 'gallery']
const house = [
  ...goesDown(
    'core',
    [
      'numeric',
      'tolerance',
      'capability',
      'charts',
      'gauging',
      ...['chance', 'plans', 'tables', 'variables', 'design', 'frequency', 'rules', 'curves', 'finding', 'replay', 'switching'].map(
        (name) => `acceptance/${name}`,
      ),
      'ledger',
      'precedence',
      'states',
      'rehearsal',
    ],
    'acceptance|testdata',
  ),
  ...goesDown('contract', ['wire', 'people', 'define', 'attach', 'equip', 'stock', 'run', 'contain', 'record', 'trace']),
  ...goesDown(
    'server',
    [
      ...rooms('kernel', [
        'base',
        'database',
        'audit',
        'threads',
        'database/sqlite',
        'database/postgres',
        'work',
        'files',
        'http',
        'verify',
        '',
        'pdf',
      ]),
      'people',
      'documents',
      ...rooms('define', ['masters', 'library', 'plans']),
      'attach',
      'equip',
      ...rooms('stock', ['ledger', 'holds', 'units', 'restrictions', 'putAway', '']),
      'inspections',
      'opening',
      ...rooms('record', ['planning', 'gauging', 'bench']),
      ...rooms('run', ['purchasing', 'rehearsal', 'receiving', 'corrections', 'production', 'shipping', 'moving', 'feed']),
      ...rooms('contain', ['decisions', 'stops']),
      ...rooms('trace', ['passport', 'reports', 'today']),
      'app',
    ],
    'app/migrations|testing',
  ),
  ...goesDown(
    'web',
    [
      ...['shell', 'format', 'composables', 'workers', 'components', 'today'],
      ...rooms('define', ['', 'revisions', 'library', 'masters', 'sampling', 'plans']),
      ...rooms('attach', ['rehearsal', 'points', 'flow']),
      ...rooms('run', ['', 'rehearsal', 'checks', 'goods', 'purchasing', 'receiving', 'shipping', 'moving', 'production', 'feed']),
      ...rooms('record', ['', 'queue', 'charts', 'entry', 'bench', 'planning']),
      ...['contain', 'trace', 'equip', 'people', 'gallery', 'app'],
    ],
    'testing',
  ),
  ...areas.map((area) => ({
    name: `web/${area}-knows-no-other-area`,
    severity: 'error',
    from: { path: `^web/src/${area}/` },
    to: { path: `^web/src/(${areas.filter((other) => other !== area).join('|')})/` },
  })),
]

/** Arrows only go down: web → contract → core; server → contract → core. Nothing imports server or web, but the demo, which plays through the server. */
module.exports = {
  forbidden: [
    ...house,
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
      name: 'components-fetch-nothing-of-a-page',
      severity: 'error',
      from: { path: '^web/src/(components|composables|format|shell)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^web/src/(today|define|attach|run|record|contain|trace|equip|people|gallery)/' },
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
