import { column, key, maybe, type Table } from './tables'

/** What came with severity by history, checks of a load, and deliveries that are put right: the same in a file and on a server. */
export const stopsAndLoads: readonly Table[] = [
  {
    name: 'acceptance_stop',
    primary: 'PK_631c20aef2864533a2f172dbec9',
    columns: [
      column('id'),
      key('plan_id', 'plan', '8e933a33e789e844d601b0368e7'),
      key('operation_id', 'operation', '9931fad9212db69e4abd38b97bc'),
      key('part_id', 'part', '3c7ba3697bf819582a3d3668b9a'),
      key('partner_id', 'partner', 'ec3b5752d8f4b1aae5af8300973', true),
      key('characteristic_id', 'characteristic', '0a51c829a8064220dde9113fb4a'),
      key('inspection_id', 'inspection', '10fd1eb3fa485f6c45df0692316'),
      column('at'),
      column('because'),
      maybe('ended_as'),
      maybe('ended_at'),
      key('ended_by_id', 'person', '6f1048d392003c021333dd6ea3f', true),
      column('reason'),
      column('version', 'integer'),
    ],
    uniques: {},
    indices: {
      acceptance_stop_history: ['plan_id', 'operation_id', 'part_id', 'characteristic_id'],
      acceptance_stop_open: ['ended_at', 'at', 'id'],
    },
  },
  {
    name: 'delivery_correction',
    primary: 'PK_3bf30b39898ccbee33eabe6dfe9',
    columns: [
      column('id'),
      key('delivery_id', 'delivery', 'fef018bcf027df6747fe07cdb03'),
      key('lot_id', 'lot', 'ebbb1825d3d5dcf5aa430fea69f', true),
      column('field'),
      column('before'),
      column('after'),
      column('arrived', 'integer', true),
      column('reason'),
      column('at'),
      key('person_id', 'person', 'd9dde56c6183f5dd1a20c88e3d9'),
    ],
    uniques: {},
    indices: { delivery_correction_delivery: ['delivery_id', 'at'], delivery_correction_lot: ['lot_id'] },
  },
]

/** How many pieces of a lot can have arrived: those that were entered, and those that a correction added. */
export const arrivedSql = `(SELECT l."quantity" FROM "lot" l WHERE l."id" = NEW."lot_id")
  + COALESCE((SELECT SUM(c."arrived") FROM "delivery_correction" c WHERE c."lot_id" = NEW."lot_id"), 0)`

/** Columns that tables get in addition: table, column, type, and what they begin with. */
export const addedColumns: readonly (readonly [table: string, column: string, type: 'text' | 'integer', start: string | null])[] = [
  ['inspection_line', 'severity', 'text', null],
  ['control_point', 'subject', 'text', 'lot'],
  ['control_point', 'holds', 'text', 'all'],
  ['hold', 'quantity', 'integer', null],
  ...(['carrier', 'vehicle', 'driver', 'seal', 'load_number'] as const).map((name) => ['delivery', name, 'text', ''] as const),
]
