import type { RawDatabase } from '../kernel/rawDatabase'

/**
 * Recomputes every lot from its movements and names (at most 20 each) the lots that do not add up, the spots below zero, and the balances
 * that are not the sum of the movements.
 */
export function verifyLedger(raw: RawDatabase): string[] {
  const spots = `
    WITH line AS (
      SELECT lotId, containerId, toPlaceId AS placeId, toStanding AS standing, quantity FROM movement
      UNION ALL SELECT lotId, containerId, fromPlaceId, fromStanding, -quantity FROM movement WHERE fromPlaceId IS NOT NULL
    ), spot AS (
      SELECT lotId, COALESCE(containerId, '') AS containerId, placeId, standing, SUM(quantity) AS quantity FROM line GROUP BY 1, 2, 3, 4
    )`
  const lots = raw
    .prepare(
      `${spots} SELECT l.code, l.quantity AS arrived, COALESCE(SUM(s.quantity), 0) AS together, COALESCE(MIN(s.quantity), 0) AS lowest
       FROM lot l LEFT JOIN spot s ON s.lotId = l.id GROUP BY l.id HAVING together <> arrived OR lowest < 0 LIMIT 20`,
    )
    .all() as { code: string; arrived: number; together: number; lowest: number }[]
  // A plant of an earlier release has no balances yet.
  const hasBalances = raw.prepare(`SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = 'balance'`).get()
  const balances = hasBalances
    ? (raw
        .prepare(
          `${spots}, pair AS (
             SELECT s.lotId, s.quantity AS ledger, COALESCE(b.quantity, 0) AS kept FROM spot s
               LEFT JOIN balance b ON b.lotId = s.lotId AND b.containerId = s.containerId AND b.placeId = s.placeId AND b.standing = s.standing
             UNION ALL SELECT b.lotId, 0, b.quantity FROM balance b
               WHERE NOT EXISTS (SELECT 1 FROM spot s WHERE s.lotId = b.lotId AND s.containerId = b.containerId AND s.placeId = b.placeId AND s.standing = b.standing)
           ) SELECT l.code, p.ledger, p.kept FROM pair p LEFT JOIN lot l ON l.id = p.lotId WHERE p.ledger <> p.kept LIMIT 20`,
        )
        .all() as { code: string | null; ledger: number; kept: number }[])
    : []
  return [
    ...lots.map(({ code, arrived, together, lowest }) =>
      lowest < 0 ? `lot ${code} has a spot with ${lowest}` : `lot ${code}: ${arrived} arrived, the ledger adds up to ${together}`,
    ),
    ...balances.map(({ code, ledger, kept }) => `lot ${code ?? 'that is not there'}: the balance says ${kept}, the ledger adds up to ${ledger}`),
  ]
}
