import type { Connection } from '../../kernel/database/connection'
import { hasColumn } from '../../kernel/database/hasColumn'
import { arrivedQuantity } from './repository'

/**
 * Recomputes every lot from its movements and names (at most 20 each) the lots that do not add up, the spots below zero, and the balances
 * that are not the sum of the movements, or say another beginning than the first of them. What was delivered is there whole; of what is made, fewer pieces may have come to be than were ordered. A plant of an earlier release, whose ledger was kept otherwise, is left to its migration.
 */
export async function verifyLedger(connection: Connection): Promise<string[]> {
  if (!(await hasColumn(connection, 'balance', 'sublot'))) return []
  const arrived = (await hasColumn(connection, 'delivery_correction', 'arrived')) ? arrivedQuantity : 'l.quantity'
  const lots = (await connection.rows(
    `${spots} SELECT a.code, a.arrived, a.together, a.lowest FROM (
       SELECT l.code, l.supplier_id, ${arrived} AS arrived, COALESCE(SUM(s.quantity), 0) AS together, COALESCE(MIN(s.quantity), 0) AS lowest
       FROM lot l LEFT JOIN spot s ON s.lot_id = l.id GROUP BY l.id) a
     WHERE a.together > a.arrived OR (a.supplier_id IS NOT NULL AND a.together < a.arrived) OR a.lowest < 0 LIMIT 20`,
  )) as { code: string; arrived: number; together: number; lowest: number }[]
  const balances = (await connection.rows(
    `${spots}, pair AS (
       SELECT s.lot_id, s.quantity AS ledger, b.quantity AS kept, s.first_seq AS first, b.since_seq AS since FROM spot s
         LEFT JOIN balance b ON b.lot_id = s.lot_id AND b.container_id = s.container_id AND b.place_id = s.place_id AND b.standing = s.standing AND b.sublot = s.sublot
       UNION ALL SELECT b.lot_id, 0, b.quantity, b.since_seq, b.since_seq FROM balance b
         WHERE NOT EXISTS (SELECT 1 FROM spot s WHERE s.lot_id = b.lot_id AND s.container_id = b.container_id AND s.place_id = b.place_id AND s.standing = b.standing AND s.sublot = b.sublot)
     ) SELECT l.code, p.* FROM pair p LEFT JOIN lot l ON l.id = p.lot_id WHERE p.kept IS NULL OR p.ledger <> p.kept OR p.first <> p.since LIMIT 20`,
  )) as { code: string | null; ledger: number; kept: number | null; first: number; since: number | null }[]
  return [
    ...lots.map(({ code, arrived, together, lowest }) =>
      lowest < 0 ? `lot ${code} has a spot with ${lowest}` : `lot ${code}: ${arrived} arrived, the ledger adds up to ${together}`,
    ),
    ...balances.map(({ code, ledger, kept, first, since }) => {
      const lot = `lot ${code ?? 'that is not there'}`
      if (kept === null) return `${lot}: a balance is missing, the ledger adds up to ${ledger}`
      if (kept !== ledger) return `${lot}: the balance says ${kept}, the ledger adds up to ${ledger}`
      return `${lot}: the balance begins with movement ${since}, the ledger with ${first}`
    }),
  ]
}

const spots = `
  WITH line AS (
    SELECT lot_id, container_id, to_place_id AS place_id, to_standing AS standing, to_sublot AS sublot, quantity, seq FROM movement
    UNION ALL SELECT lot_id, container_id, from_place_id, from_standing, from_sublot, -quantity, NULL FROM movement WHERE from_place_id IS NOT NULL
  ), spot AS (
    SELECT lot_id, COALESCE(container_id, '') AS container_id, place_id, standing, sublot, SUM(quantity) AS quantity, MIN(seq) AS first_seq FROM line GROUP BY 1, 2, 3, 4, 5
  )`
