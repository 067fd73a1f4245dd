import { column, key, maybe, type Table } from './tables'

/** Passwords that somebody else chose, and what people show besides their password: the same in a file and on a server. */
export const credentialTables: readonly Table[] = [
  {
    name: 'given_password',
    primary: 'PK_956d6f38cd39a1522f3f6c999bb',
    columns: [key('id', 'person', '956d6f38cd39a1522f3f6c999bb'), key('by_id', 'person', '6a719a06b48e9e8a2ce4e24dd49'), column('at')],
    uniques: {},
    indices: {},
  },
  {
    name: 'second_factor',
    primary: 'PK_e649c0d005a9b07eb4bed5e0533',
    columns: [
      key('id', 'person', 'e649c0d005a9b07eb4bed5e0533'),
      column('sealed_secret'),
      maybe('confirmed_at'),
      column('last_step', 'integer'),
      column('recovery'),
    ],
    uniques: {},
    indices: {},
  },
]
