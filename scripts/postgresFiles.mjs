/**
 * The server's tests that are run a second time, on PostgreSQL, with every change: those that ask a statement that no other asks. Of 1,081
 * different statements that all tests together ask of a database they ask 1,031; the rest are the same ones in another order or with another
 * filter. All of them take twice as long: `npm run test:postgres`, before a statement is changed.
 */
export const postgresFiles = [
  // What the database itself does.
  ...['database', 'dataLock', 'olderPlant', 'tampering', 'app'].map((name) => `app/${name}`),
  ...['http/lists', 'work/unitOfWork', 'database/writeBehind', 'database/store', 'database/postgres/fellowServers'].map((name) => `kernel/${name}`),
  // What the areas ask of it.
  ...['library/characteristics', 'library/library', 'plans/plans', 'masters/rests', 'masters/measureUnits'].map((name) => `define/${name}`),
  ...['points', 'scopes'].map((name) => `attach/${name}`),
  ...[
    'receiving/serials',
    'receiving/expected',
    'corrections/correctDelivery',
    'feed/feed',
    'feed/inbox',
    'moving/transfers',
    'shipping/planDispatch',
  ].map((name) => `run/${name}`),
  ...['identity', 'slice', 'production/stepReports', 'rehearsal/pastOccasions'].map((name) => `run/${name}`),
  ...['severity', 'frequency', 'askedOnce', 'consequence'].map((name) => `opening/${name}`),
  'inspections/inspectionWords',
  'stock/ledger/balancesNow',
  'stock/ledger/decimals',
  'record/planning/assignments',
  'stock/restrictions/finerStandings',
  'contain/decisions/decide',
  'people/people',
].map((name) => `server/src/${name}.test.ts`)
