import { alike, type Filter, type ListSpec } from '../../kernel/http/lists'
import { finerOf } from '../../stock/ledger/finerRepository'
import { sublotCode } from '../../stock/ledger/repository'

const ending = (column: string) => `substr(${column}, length(${column}) - 2)`

/** Other lots of the part in the same place whose number, or supplier's number, ends like this one's: easily mistaken for it. */
const lookAlikes = `(SELECT string_agg(q.code, ', ' ORDER BY q.code) FROM (SELECT DISTINCT x.code FROM balance y JOIN lot x ON x.id = y.lot_id
  WHERE y.place_id = b.place_id AND y.quantity > 0 AND x.part_id = l.part_id AND x.id <> l.id
    AND (${ending('x.code')} = ${ending('l.code')} OR (x.supplier_lot <> '' AND ${ending('x.supplier_lot')} = ${ending('l.supplier_lot')}))) q)`

/** What the plant calls a standing more finely, and whether the pieces count for planning. @param then an instant as SQL; null: now */
const finerColumns = (then: string | null) =>
  ({
    countsForPlanning: { sql: `(COALESCE(${finerOf('counts_for_planning', then)}, TRUE) AND p.counts_for_planning)`, kind: 'flag' },
    finer: { sql: finerOf('name', then), isNullable: true },
  }) as const

/** When the youngest hold began that was open at an instant on the lot or the container: pieces are free when the last one is lifted. */
const heldSince = (then: string | null) =>
  `CASE WHEN b.standing = 'onHold' THEN (SELECT MAX(h.opened_at) FROM hold h WHERE h.lot_id = b.lot_id AND (h.container_id IS NULL OR h.container_id = b.container_id)
    AND ${then === null ? 'h.closed_at IS NULL' : `h.opened_at <= ${then} AND (h.closed_at IS NULL OR h.closed_at > ${then})`}) END`

/**
 * Everything that is anywhere, by lot, container, place and standing, as the balances have it. The movement is always there; joined from the
 * left it is read for the rows of a page only, and not for every balance that is sorted.
 */
export const stockList: ListSpec = {
  from: `balance b JOIN lot l ON l.id = b.lot_id JOIN part t ON t.id = l.part_id JOIN place p ON p.id = b.place_id
    LEFT JOIN container c ON c.id = b.container_id LEFT JOIN movement m ON m.seq = b.since_seq`,
  countFrom: 'balance b',
  where: 'b.quantity > 0',
  id: `b.lot_id || ' ' || b.container_id || ' ' || b.place_id || ' ' || b.standing || ' ' || b.sublot`,
  key: 'b.lot_id, b.container_id, b.place_id, b.standing, b.sublot',
  columns: {
    id: { sql: `b.lot_id || ' ' || b.container_id || ' ' || b.place_id || ' ' || b.standing || ' ' || b.sublot` },
    lotId: { sql: 'b.lot_id' },
    partCode: { sql: 't.code' },
    partName: { sql: 't.name' },
    lotCode: { sql: 'l.code' },
    supplierLot: { sql: 'l.supplier_lot' },
    containerLabel: { sql: 'c.label', isNullable: true },
    placeName: { sql: 'p.name' },
    ...finerColumns(null),
    standing: { sql: 'b.standing' },
    sublotCode: { sql: sublotCode, isNullable: true },
    quantity: { sql: 'b.quantity', kind: 'quantity' },
    unit: { sql: 't.unit', kind: 'unit' },
    since: { sql: 'm.at' },
    holdDays: { sql: `CASE WHEN b.standing = 'onHold' THEN t.hold_days END`, kind: 'number', isNullable: true },
    heldSince: { sql: heldSince(null), isNullable: true },
    looksLike: { sql: lookAlikes, isNullable: true },
  },
  // Each word is looked for where it stands, and the balances by what is found there; a word has no space.
  search: [],
  searchAlso: [
    `b.lot_id IN (SELECT x.id FROM lot x WHERE ${alike(`(x.code || ' ' || x.supplier_lot)`)})`,
    `b.lot_id IN (SELECT x.id FROM part y JOIN lot x ON x.part_id = y.id WHERE ${alike(`(y.code || ' ' || y.name)`)})`,
    `b.container_id IN (SELECT x.id FROM container x WHERE ${alike('x.label')})`,
    `b.place_id IN (SELECT x.id FROM place x WHERE ${alike('x.name')})`,
  ],
  sort: ['partCode', 'asc'],
}

/**
 * The same as it was at an instant: the sum of the movements until then. The reading that a past day needs; today's comes from the balances.
 * The instant is written into the text as the server formats it, so that nothing else can stand there.
 */
export function stockAt(instant: Date): ListSpec {
  const at = `'${instant.toISOString()}'`
  const then = `(SELECT lot_id, container_id, place_id, standing, sublot, SUM(quantity) AS quantity, MIN(seq) AS since_seq FROM (
      SELECT lot_id, COALESCE(container_id, '') AS container_id, to_place_id AS place_id, to_standing AS standing, to_sublot AS sublot, quantity, seq FROM movement WHERE at <= ${at}
      UNION ALL SELECT lot_id, COALESCE(container_id, ''), from_place_id, from_standing, from_sublot, -quantity, NULL FROM movement WHERE at <= ${at} AND from_place_id IS NOT NULL
    ) moved GROUP BY lot_id, container_id, place_id, standing, sublot)`
  const { countFrom: _, ...spec } = stockList
  const columns = {
    ...spec.columns,
    heldSince: { sql: heldSince(at), isNullable: true },
    looksLike: { sql: 'NULL', isNullable: true },
    ...finerColumns(at),
  }
  return { ...spec, from: spec.from.replace('balance b', `${then} b`), columns }
}

export function stockFilters({ standing }: { standing?: string | undefined }): Filter[] {
  return standing === undefined ? [] : [{ sql: 'b.standing = ?', values: [standing] }]
}
