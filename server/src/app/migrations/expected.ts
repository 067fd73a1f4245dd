import { column, key, maybe, type Table } from './tables'

/** Columns that tables get in addition, for what follows from a finding: table, column, and what stands in it at first; null for nothing. */
export const consequenceColumns: readonly (readonly [table: string, column: string, start: string | null])[] = [
  ['control_point', 'when_conforming', `'decide'`],
  ['control_point', 'advice', `''`],
  ['control_point', 'follow_plan_id', null],
  ['control_point', 'answered_at', `'bench'`],
  ['inspection', 'consequence', null],
]

/** What came with purchase orders and with deliveries before their receipt: the same in a file and on a server. */
export const expected: readonly Table[] = [
  {
    name: 'purchase_order',
    primary: 'PK_ad3e1c7b862f4043b103a6c8c60',
    columns: [
      column('id'),
      key('supplier_id', 'partner', 'e4ea5841622429c12889a487f31'),
      column('order_number'),
      column('contract'),
      column('is_closed', 'boolean'),
      column('entered_at'),
      key('person_id', 'person', 'cd4df60f069c9fcd3e2ac3481dc'),
      column('version', 'integer'),
    ],
    uniques: { purchase_order_number: ['supplier_id', 'order_number'] },
    indices: {},
  },
  {
    name: 'purchase_order_line',
    primary: 'PK_6077a6da2cd5d311c17e6ac7cb3',
    columns: [
      column('id'),
      key('order_id', 'purchase_order', '99ce879141f80e5b2eeb46961a3'),
      column('position', 'integer'),
      key('part_id', 'part', '351aa48692f3e7f44cf13a0f41e'),
      column('quantity', 'integer'),
      maybe('due_on'),
    ],
    uniques: {},
    indices: { purchase_order_line_order: ['order_id'] },
  },
  {
    name: 'expected_delivery',
    primary: 'PK_459f3d013c6ce78b0528512addc',
    columns: [
      column('id'),
      column('code'),
      key('supplier_id', 'partner', 'f206413370b2e1644cb9664deb8'),
      column('order_number'),
      maybe('expected_on'),
      column('state'),
      key('announced_id', 'occasion', '3ff657367e62fa7155f690f0372', true),
      key('registered_id', 'occasion', '9b745c690d5d15c3f72e1c0b1ab', true),
      column('carrier'),
      column('vehicle'),
      column('driver'),
      column('seal'),
      column('load_number'),
      column('reason'),
      column('version', 'integer'),
    ],
    uniques: { UQ_b3ec17abf4ddeda4ae542e2c707: ['code'] },
    indices: { expected_delivery_state: ['state', 'expected_on'] },
  },
  {
    name: 'expected_line',
    primary: 'PK_c4a58dc8d641dfabb21af4383f9',
    columns: [
      column('id'),
      key('delivery_id', 'expected_delivery', 'c72969e805eeb192f16e696f21e'),
      column('position', 'integer'),
      key('part_id', 'part', 'eaa0a58f11883079fb06457410e'),
      column('quantity', 'integer'),
      column('supplier_lot'),
    ],
    uniques: {},
    indices: { expected_line_delivery: ['delivery_id'] },
  },
  {
    name: 'delivery_paper',
    primary: 'PK_70dec13b186daf386ab30508c00',
    columns: [
      column('id'),
      key('delivery_id', 'delivery', 'c8df17e0014ae6a903efa2766d9'),
      key('lot_id', 'lot', '1a08866b59e11d027ae8db4f785', true),
      key('document_id', 'document', 'e4dcc97560786a959dcdb963b57'),
      column('kind'),
      column('at'),
      key('person_id', 'person', '4ff197e7d861873fa47b06a77aa'),
    ],
    uniques: {},
    indices: { delivery_paper_delivery: ['delivery_id', 'at'], delivery_paper_document: ['document_id'] },
  },
]
