import type { QueryRunner } from 'typeorm'
import { column, maybe, type Table } from './tables'

/** Columns that came with pieces that are meant by identity: table, column, type, and what stands in it at first (null for nothing). */
const columns: readonly (readonly [table: string, column: string, type: 'text' | 'integer', start: string | null])[] = [
  ['movement', 'from_sublot', 'text', ''],
  ['movement', 'to_sublot', 'text', ''],
  ['hold', 'event_id', 'text', null],
  ['dispatch_pick', 'shipped', 'integer', null],
  ['customer_return', 'pick_id', 'text', null],
]

export function identityColumns(kind: 'sqlite' | 'postgres'): string[] {
  const typeOf = (type: 'text' | 'integer') => (type === 'text' && kind === 'postgres' ? 'text COLLATE "C"' : type)
  const startOf = (start: string | null) => (start === null ? '' : ` NOT NULL DEFAULT ${kind === 'sqlite' ? `('${start}')` : `'${start}'`}`)
  return columns.map(([table, name, type, start]) => `ALTER TABLE "${table}" ADD COLUMN "${name}" ${typeOf(type)}${startOf(start)}`)
}

/** How far the switching rules have come on each line that they are kept for. */
export const lineSeverity: Table = {
  name: 'line_severity',
  primary: 'PK_line_severity',
  columns: [
    column('id'),
    column('plan_id'),
    column('operation_id'),
    column('part_id'),
    maybe('partner_id'),
    column('characteristic_id'),
    column('rule'),
    column('kept'),
  ],
  uniques: {},
  indices: { line_severity_history: ['plan_id', 'operation_id', 'part_id', 'characteristic_id'] },
}

/** The first decision on pieces that no inspection asks about follows none; a lot has one such at most. */
export const firstDecision = 'CREATE UNIQUE INDEX "decision_first" ON "decision" ("lot_id") WHERE "inspection_id" IS NULL AND "follows_id" IS NULL'

interface Wanted {
  lotId: string
  containerId: string | null
  sublot: string
  quantity: number
}
interface Spot {
  place: string
  standing: string
  quantity: number
}

const quoted = (value: string | null) => (value === null ? 'NULL' : `'${value.replaceAll("'", "''")}'`)

/**
 * Pieces that an event set apart are told apart from now on: those that wait at the door for a dispatch, that left with it, that came back, and
 * that a gate holds where a transfer took them. As far as they are still there: what was taken for another's before cannot be known any more.
 */
export async function setApartWhatIs(runner: QueryRunner): Promise<void> {
  const asked = async <T>(sql: string) => (await runner.query(sql)) as T[]
  const at = new Date().toISOString()
  const label = async (wanted: readonly Wanted[], where: string) => {
    for (const { lotId, containerId, sublot, quantity } of wanted) {
      let left = Number(quantity)
      const spots = await asked<Spot>(
        `SELECT b."place_id" AS "place", b."standing", b."quantity" FROM "balance" b JOIN "place" p ON p."id" = b."place_id"
         WHERE b."lot_id" = ${quoted(lotId)} AND b."container_id" = ${quoted(containerId ?? '')} AND b."sublot" = '' AND b."quantity" > 0 AND ${where} ORDER BY b."standing" DESC`,
      )
      for (const spot of spots) {
        const taken = Math.min(left, spot.quantity)
        if (taken <= 0) continue
        left -= taken
        const [place, standing] = [quoted(spot.place), quoted(spot.standing)]
        await runner.query(
          `INSERT INTO "movement" ("lot_id", "container_id", "quantity", "from_place_id", "from_standing", "from_sublot", "to_place_id", "to_standing", "to_sublot", "kind", "occasion_id", "at", "person_id")
           SELECT ${quoted(lotId)}, ${quoted(containerId)}, ${taken}, ${place}, ${standing}, '', ${place}, ${standing}, ${quoted(sublot)}, 'setApart', o."id", ${quoted(at)}, o."person_id"
           FROM "occasion" o WHERE o."id" = ${quoted(sublot.split('/').at(-1) ?? '')}`,
        )
      }
    }
  }
  const named = (lot: string, sublot: string, quantity: string, container = 'NULL') =>
    `${lot} AS "lotId", ${container} AS "containerId", ${sublot} AS "sublot", ${quantity} AS "quantity"`
  const picks = (state: string, quantity: string) =>
    `SELECT ${named('k."lot_id"', 'd."id"', quantity, 'k."container_id"')} FROM "dispatch_pick" k JOIN "dispatch" d ON d."id" = k."dispatch_id" WHERE d."state" = '${state}' ORDER BY k."id"`
  await label(await asked(picks('picked', 'k."quantity"')), `p."purpose" = 'shipping' AND b."standing" IN ('released', 'onHold')`)
  const back = `(SELECT COALESCE(SUM(r."quantity"), 0) FROM "customer_return" r WHERE r."dispatch_id" = d."id" AND r."lot_id" = k."lot_id")`
  await label(await asked(picks('sent', `k."quantity" - ${back}`)), `b."standing" = 'shipped'`)
  await label(
    await asked(
      `SELECT ${named('r."lot_id"', `r."dispatch_id" || '/' || r."id"`, 'r."quantity"')} FROM "customer_return" r
       WHERE EXISTS (SELECT 1 FROM "hold" h JOIN "inspection" i ON i."id" = h."cause_id" WHERE i."occasion_id" = r."id" AND h."closed_at" IS NULL) ORDER BY r."id"`,
    ),
    `p."purpose" = 'inspection' AND b."standing" = 'onHold'`,
  )
  await label(
    await asked(
      `SELECT ${named('t."lot_id"', 't."id"', 't."quantity"', 't."container_id"')} FROM "transfer" t
       WHERE EXISTS (SELECT 1 FROM "hold" h JOIN "inspection" i ON i."id" = h."cause_id" WHERE i."occasion_id" = t."id" AND h."closed_at" IS NULL) ORDER BY t."id"`,
    ),
    `b."standing" = 'onHold'`,
  )
  await runner.query(
    `UPDATE "hold" SET "event_id" = (SELECT i."occasion_id" FROM "inspection" i JOIN "occasion" o ON o."id" = i."occasion_id"
       WHERE i."id" = "hold"."cause_id" AND o."kind" IN ('dispatch', 'return', 'transfer')) WHERE "closed_at" IS NULL`,
  )
  await runner.query(
    `UPDATE "dispatch_pick" SET "shipped" = "quantity" WHERE "dispatch_id" IN (SELECT d."id" FROM "dispatch" d WHERE d."state" = 'sent')`,
  )
}
