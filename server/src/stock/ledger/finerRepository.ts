import type { FinerStanding } from '@nemawashi/core'
import type { Reader } from '../../kernel/work/database'
import { rowsOf } from '../../kernel/database/rowsOf'

/** A finer standing that pieces of a lot have now. */
export interface GivenStanding extends FinerStanding {
  readonly id: string
  /** The container that it is of; null for all of the lot. */
  readonly containerId: string | null
  readonly name: string
  readonly reason: string
}

type Flags = 'mayUse' | 'mayPick' | 'mayShip' | 'countsForPlanning'

/** Finer standings that pieces of lots have now, lot by lot. */
export async function givenStandings(reader: Reader, lotIds: readonly string[]): Promise<Map<string, GivenStanding[]>> {
  const rows = await rowsOf<Omit<GivenStanding, Flags> & Record<Flags, number> & { lotId: string }>(
    reader,
    {
      name: 'text',
      id: 'text',
      reason: 'text',
      containerId: 'text?',
      standing: 'text',
      mayUse: 'number',
      mayPick: 'number',
      mayShip: 'number',
      countsForPlanning: 'number',
      lotId: 'text',
    },
    `SELECT g.lot_id, g.id, g.container_id, f.name, g.reason, f.standing, f.may_use, f.may_pick, f.may_ship, f.counts_for_planning
     FROM lot_standing g JOIN finer_standing f ON f.id = g.finer_id WHERE g.lot_id IN (SELECT value FROM json_each(?)) AND g.ended_at IS NULL ORDER BY g.at, g.id`,
    [JSON.stringify(lotIds)],
  )
  const byLot = new Map<string, GivenStanding[]>()
  for (const { lotId, mayUse, mayPick, mayShip, countsForPlanning, ...row } of rows) {
    const flags = { mayUse: mayUse === 1, mayPick: mayPick === 1, mayShip: mayShip === 1, countsForPlanning: countsForPlanning === 1 }
    byLot.set(lotId, [...(byLot.get(lotId) ?? []), { ...row, ...flags }])
  }
  return byLot
}

/** Every finer standing that pieces of a lot were given, and when it ended. */
export async function standingsGiven(reader: Reader, lotId: string) {
  return rowsOf(
    reader,
    { at: 'text', reason: 'text', endedAt: 'text?', name: 'text', containerLabel: 'text?', byName: 'text', endedByName: 'text?' },
    `SELECT g.at, g.reason, g.ended_at, f.name, c.label AS container_label, p.name AS by_name, e.name AS ended_by_name
     FROM lot_standing g JOIN finer_standing f ON f.id = g.finer_id JOIN person p ON p.id = g.person_id LEFT JOIN person e ON e.id = g.ended_by_id
     LEFT JOIN container c ON c.id = g.container_id WHERE g.lot_id = ? ORDER BY g.at, g.id`,
    [lotId],
  )
}

/**
 * A column of the finer standing of a balance `b`: of its container before that of its lot; nothing where it has none.
 * @param then an instant as SQL; left out: now
 */
export const finerOf = (
  column: string,
  then: string | null = null,
) => `(SELECT f.${column} FROM lot_standing g JOIN finer_standing f ON f.id = g.finer_id
  WHERE g.lot_id = b.lot_id AND ${then === null ? 'g.ended_at IS NULL' : `g.at <= ${then} AND (g.ended_at IS NULL OR g.ended_at > ${then})`} AND f.standing = b.standing AND (g.container_id IS NULL OR g.container_id = b.container_id)
  ORDER BY g.container_id IS NULL, g.at LIMIT 1)`
