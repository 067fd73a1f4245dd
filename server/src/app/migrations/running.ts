import { column, key, type Table } from './tables'

/** What came with reports of a running step and with days from and until which a control point is in force: the same in a file and on a server. */
export const running: readonly Table[] = [
  {
    name: 'step_report',
    primary: 'PK_7a7bc0788f3473ea7b3030a85db',
    columns: [
      key('id', 'occasion', '7a7bc0788f3473ea7b3030a85db'),
      key('step_id', 'order_step', '42be2fb3aabff62230224b21765'),
      column('kind'),
      column('good', 'integer'),
      column('scrapped', 'integer'),
      column('set_aside', 'integer'),
      column('done', 'integer'),
      column('minutes', 'integer'),
      column('note'),
    ],
    uniques: {},
    indices: { step_report_step: ['step_id'] },
  },
]

/** Columns that tables get in addition: table, column, type. */
export const runningColumns: readonly (readonly [table: string, column: string, type: 'text' | 'integer'])[] = [
  ['control_point', 'every', 'integer'],
  ['control_point', 'valid_from', 'text'],
  ['control_point', 'valid_until', 'text'],
]
