import type { Today } from '@nemawashi/contract'
import { heldCandidates } from '../contain/routes'
import type { Reader } from '../kernel/database'

const ages = [
  { label: 'today', untilDays: 1 },
  { label: '1–2 days', untilDays: 3 },
  { label: '3–6 days', untilDays: 7 },
  { label: 'a week +', untilDays: Infinity },
] as const

/** The counts that the first page of the day shows. Each comes from an index; none reads a table whole. */
export async function loadToday(reader: Reader, dayStart: string, now: Date): Promise<Today> {
  const one = async (sql: string, values: string[] = []) => ((await reader.query(sql, values)) as { n: number }[])[0]?.n ?? 0
  const held = (await reader.query(
    `SELECT l.receivedAt FROM lot l WHERE l.id IN (${heldCandidates}) AND (
       SELECT SUM(CASE WHEN m.toStanding IN ('onHold', 'quarantined') THEN m.quantity ELSE 0 END) - SUM(CASE WHEN m.fromStanding IN ('onHold', 'quarantined') THEN m.quantity ELSE 0 END)
       FROM movement m WHERE m.lotId = l.id) > 0`,
  )) as { receivedAt: string }[]
  const yearAgo = new Date(Date.UTC(now.getUTCFullYear() - 1, now.getUTCMonth() + 1, 1)).toISOString()
  const months = (await reader.query(
    `SELECT substr(finishedAt, 1, 7) AS month, COUNT(*) AS decided, SUM(verdict = 'notAcceptable') AS notAcceptable
     FROM inspection WHERE finishedAt >= ? GROUP BY month ORDER BY month`,
    [yearAgo],
  )) as Today['notAcceptedByMonth']
  const days = held.map((lot) => (now.getTime() - Date.parse(lot.receivedAt)) / 86_400_000)
  return {
    started: await one(`SELECT COUNT(*) AS n FROM inspection WHERE state = 'started'`),
    toDo: await one(`SELECT COUNT(*) AS n FROM inspection WHERE state = 'toDo'`),
    finishedToday: await one('SELECT COUNT(*) AS n FROM inspection WHERE finishedAt >= ?', [dayStart]),
    notAcceptableToday: await one(`SELECT COUNT(*) AS n FROM inspection WHERE finishedAt >= ? AND verdict = 'notAcceptable'`, [dayStart]),
    waitingForDecision: await one(`SELECT COUNT(*) AS n FROM inspection WHERE state = 'finished'`),
    heldByAge: ages.map(({ label, untilDays }, i) => ({
      label,
      lots: days.filter((age) => age < untilDays && age >= (ages[i - 1]?.untilDays ?? -Infinity)).length,
    })),
    notAcceptedByMonth: months,
  }
}
