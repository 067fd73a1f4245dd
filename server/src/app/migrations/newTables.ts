import { column, key, maybe, type Table } from './tables'

const code = column('code')

/** What came when every operation had its occasions: the same tables in a file and on a server. */
export const newTables: readonly Table[] = [
  {
    name: 'consideration',
    primary: 'PK_a5d35db4fe6b904362ba139472c',
    columns: [
      column('id'),
      key('control_point_id', 'control_point', 'bf469705eb8028719a727a9dae8'),
      key('plan_id', 'plan', 'ab528df0de9b80b7d8134095415'),
      key('operation_id', 'operation', 'ac99a71e6bc523d144d929e2615'),
      key('part_id', 'part', '45c8d78963290bb135dbf01b431'),
      key('partner_id', 'partner', '1224ed93efb6e498df0222eeb77', true),
      key('occasion_id', 'occasion', '6bb8ebbfa8bfcdec88812b93da4', true),
      key('lot_id', 'lot', '40340677d0ab760fa7452a79b9e', true),
      column('quantity', 'integer'),
      column('at'),
      column('is_due', 'boolean'),
      column('because'),
      key('inspection_id', 'inspection', '758596fa02808b8c61a45cf8c61', true),
    ],
    uniques: {},
    indices: { consideration_history: ['plan_id', 'operation_id', 'part_id', 'at'], consideration_lot: ['lot_id'] },
  },
  {
    name: 'production_order',
    primary: 'PK_e90e1070bf38dd156947f1322b7',
    columns: [
      column('id'),
      code,
      key('part_id', 'part', '6efb9b32cbebfad2c051d3fd8f1'),
      column('quantity', 'integer'),
      column('order_number'),
      key('customer_id', 'partner', '620aeff0028a69d500810696f4c', true),
      key('lot_id', 'lot', 'd074bf5a99db4f482d1b72eb8cd', true),
      column('state'),
      column('created_at'),
      maybe('released_at'),
      maybe('finished_at'),
      column('version', 'integer'),
    ],
    uniques: { UQ_6bec3c787be7d09b6304fd827b7: ['code'] },
    indices: { production_order_state: ['state', 'created_at', 'id'], production_order_lot: ['lot_id'] },
  },
  {
    name: 'order_step',
    primary: 'PK_a0b0afd40c50219cb860c63077e',
    columns: [
      column('id'),
      key('order_id', 'production_order', '1cd648c0e2d5e8803fe0e2ccf57'),
      column('position', 'integer'),
      key('operation_id', 'operation', '53f4d098793f4362cb05226366a'),
      column('state'),
      key('start_id', 'occasion', 'd9087dae665d7bde826c6dbd06c', true),
      key('end_id', 'occasion', '78b3597dd15f5fbcca1ba8c1973', true),
      column('good', 'integer'),
      column('scrapped', 'integer'),
      column('set_aside', 'integer'),
    ],
    uniques: { order_step_position: ['order_id', 'position'] },
    indices: {},
  },
  {
    name: 'dispatch',
    primary: 'PK_f2c29333b8ffa14a1414142fc55',
    columns: [key('id', 'occasion', 'f2c29333b8ffa14a1414142fc55'), code, column('state'), maybe('sent_at'), column('version', 'integer')],
    uniques: { UQ_b7d1675bb77752361fae7fb94e8: ['code'] },
    indices: {},
  },
  {
    name: 'dispatch_pick',
    primary: 'PK_5641ac3be3023a1b76f088af14e',
    columns: [
      column('id'),
      key('dispatch_id', 'dispatch', 'a4805c2c0714326930904270b17'),
      key('lot_id', 'lot', 'c859b9cb7ee6fa4c1925a4ce978'),
      key('container_id', 'container', '043ba8fee0b745d91a37b7ecca7', true),
      column('quantity', 'integer'),
      key('from_place_id', 'place', '93d00bbe57e6469d79c798f445e'),
    ],
    uniques: {},
    indices: { dispatch_pick_dispatch: ['dispatch_id'], dispatch_pick_lot: ['lot_id'] },
  },
  {
    name: 'customer_return',
    primary: 'PK_6c27596a9a37471d2502c92f5fb',
    columns: [
      key('id', 'occasion', '6c27596a9a37471d2502c92f5fb'),
      code,
      key('dispatch_id', 'dispatch', '1fb697ae2243018da98793bd7df'),
      key('lot_id', 'lot', '99c57969092e3251daaec0bcbe0'),
      column('quantity', 'integer'),
      column('reason'),
    ],
    uniques: { UQ_5357fb3c1a0f42004e18728c431: ['code'] },
    indices: { customer_return_dispatch: ['dispatch_id'] },
  },
]

/** What was opened before frequency rules were asked: every arrival was looked at. */
export const firstConsiderations = `INSERT INTO consideration SELECT i.id, i.control_point_id, r.plan_id, i.operation_id, l.part_id, l.supplier_id,
  i.occasion_id, i.lot_id, i.lot_size, i.opened_at, i.opened_at IS NOT NULL, '{"kind":"every"}', i.id
  FROM inspection i JOIN plan_revision r ON r.id = i.plan_revision_id JOIN lot l ON l.id = i.lot_id WHERE i.follows_id IS NULL`
