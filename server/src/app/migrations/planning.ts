import { column, key, maybe, type Table } from './tables'

/** What came with planning the bench, transfers by rule, and samples that are adapted: the same in a file and on a server. */
export const planning: readonly Table[] = [
  {
    name: 'assignment',
    primary: 'PK_43c2f5a3859f54cedafb270f37e',
    columns: [
      key('id', 'inspection', '43c2f5a3859f54cedafb270f37e'),
      key('person_id', 'person', '1f461a142794a1e7219adcd143b', true),
      maybe('day'),
      key('holder_id', 'person', '6807da2e7f7c20701d0bb9afb7d', true),
      maybe('held_at'),
      column('version', 'integer'),
    ],
    uniques: {},
    indices: { assignment_person: ['person_id', 'day'], assignment_holder: ['holder_id'] },
  },
  {
    name: 'adaptation',
    primary: 'PK_479c9cdaf1f709b0a18cef24d13',
    columns: [
      column('id'),
      key('inspection_id', 'inspection', '3ffc5130536473a1e834a194bbe'),
      key('line_id', 'inspection_line', '20ba69e66217f4970fa0a120dec'),
      column('before_size', 'integer'),
      column('before_accept', 'integer'),
      column('after_size', 'integer'),
      column('after_accept', 'integer'),
      column('reason'),
      column('at'),
      key('person_id', 'person', 'c6120c42ed85ed6a885343ce6d8'),
    ],
    uniques: {},
    indices: { adaptation_inspection: ['inspection_id', 'at'], adaptation_line: ['line_id', 'at'] },
  },
  {
    name: 'transfer',
    primary: 'PK_fd9ddbdd49a17afcbe014401295',
    columns: [
      key('id', 'occasion', 'fd9ddbdd49a17afcbe014401295'),
      column('code'),
      key('lot_id', 'lot', '2aef640a8f96e44f2f28a32572d'),
      key('container_id', 'container', '730599b49de1dc3b45c350fc042', true),
      column('quantity', 'integer'),
      column('standing'),
      key('rule_id', 'put_away_rule', 'dd739e4801fd81dfaedba9548de', true),
    ],
    uniques: { UQ_e16b771f5b021b4f59f7dd1a2d6: ['code'] },
    indices: { transfer_lot: ['lot_id'] },
  },
  {
    name: 'put_away_rule',
    primary: 'PK_b6bafb7b633e1db235b20f060b5',
    columns: [
      column('id'),
      column('position', 'integer'),
      column('name'),
      key('part_id', 'part', '3c967f4ccac59233ccbad0158fd', true),
      key('family_id', 'family', 'c6a7da8ed548deafac0e423bae2', true),
      key('supplier_id', 'partner', 'c80a0392cd30565846ac18f091e', true),
      maybe('standing'),
      column('moment'),
      key('from_place_id', 'place', '89dbd034d4eb256baa955aa2043', true),
      key('to_place_id', 'place', '9fe4f41128f8c306e89c1a43af1'),
      column('state'),
      column('version', 'integer'),
    ],
    uniques: {},
    indices: {},
  },
  {
    name: 'open_stop',
    primary: 'PK_bffd410a528caf2fc45a108c091',
    columns: [
      column('id'),
      key('part_id', 'part', 'fa8dcd9af4f1da37e712e1b57e3'),
      key('operation_id', 'operation', '6d54f7662cafad89e41b96e2c01'),
      column('reason'),
      column('at'),
      key('person_id', 'person', 'f60b77dc7912aab2633f9949f11'),
    ],
    uniques: { open_stop_place: ['part_id', 'operation_id'] },
    indices: {},
  },
]

/** Columns that tables get in addition: table, column, type, and what they begin with, as SQL. */
export const plannedColumns: readonly (readonly [table: string, column: string, type: 'text' | 'integer', start: string | null])[] = [
  ['inspection', 'minutes', 'integer', null],
  ['inspection', 'left_out', 'text', null],
  ['inspection_line', 'also_for', 'text', null],
  ['person', 'day_minutes', 'integer', '420'],
  ['control_point', 'need', 'text', `'fixed'`],
]
