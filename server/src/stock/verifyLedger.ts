import type { RawDatabase } from '../kernel/rawDatabase'

/** Recomputes every lot from its movements and names the lots that do not add up, or where something is below zero (at most 20). */
export function verifyLedger(raw: RawDatabase): string[] {
  const rows = raw
    .prepare(
      `
    WITH line AS (
      SELECT lotId, containerId, toPlaceId AS placeId, toStanding AS standing, quantity FROM movement
      UNION ALL SELECT lotId, containerId, fromPlaceId, fromStanding, -quantity FROM movement WHERE fromPlaceId IS NOT NULL
    ), spot AS (SELECT lotId, SUM(quantity) AS quantity FROM line GROUP BY lotId, containerId, placeId, standing)
    SELECT l.code, l.quantity AS arrived, COALESCE(SUM(s.quantity), 0) AS together, COALESCE(MIN(s.quantity), 0) AS lowest
    FROM lot l LEFT JOIN spot s ON s.lotId = l.id GROUP BY l.id HAVING together <> arrived OR lowest < 0 LIMIT 20`,
    )
    .all() as {
    code: string
    arrived: number
    together: number
    lowest: number
  }[]
  return rows.map(({ code, arrived, together, lowest }) =>
    lowest < 0 ? `lot ${code} has a spot with ${lowest}` : `lot ${code}: ${arrived} arrived, the ledger adds up to ${together}`,
  )
}
