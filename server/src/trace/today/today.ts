import { heldSince, finishedSince, countDeciding, countInspections, countFinished } from '../passport/repository'
import type { Today } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { dayIn, startOfDay } from '../../kernel/database/plantTime'

const ages = [
  { fromDays: 0, untilDays: 1 },
  { fromDays: 1, untilDays: 3 },
  { fromDays: 3, untilDays: 7 },
  { fromDays: 7, untilDays: null },
] as const

/** Inspections by the month of the plant in which they were finished. */
function byMonth(timeZone: string, finished: readonly { finishedAt: string; verdict: string }[]): Today['notAcceptedByMonth'] {
  const months = new Map<string, Today['notAcceptedByMonth'][number]>()
  const days = new Map<string, string>()
  for (const { finishedAt, verdict } of finished) {
    // Naming a day in a zone is dear; an hour lies in one day of any zone.
    const hour = finishedAt.slice(0, 13)
    const month = days.get(hour) ?? dayIn(timeZone, finishedAt).slice(0, 7)
    days.set(hour, month)
    const entry = months.get(month) ?? { month, decided: 0, notAcceptable: 0 }
    entry.decided += 1
    if (verdict === 'notAcceptable') entry.notAcceptable += 1
    months.set(month, entry)
  }
  return [...months.values()]
}

/** The counts that the first page of the day shows. Each comes from an index; none reads a table whole. */
export async function loadToday(reader: Reader, timeZone: string, now: Date): Promise<Today> {
  const held = await heldSince(reader)
  const dayStart = startOfDay(timeZone, dayIn(timeZone, now)).toISOString()
  const yearAgo = new Date(Date.UTC(now.getUTCFullYear() - 1, now.getUTCMonth() + 1, 1)).toISOString()
  const finished = await finishedSince(reader, yearAgo)
  const days = held.map((at) => (now.getTime() - Date.parse(at)) / 86_400_000)
  return {
    started: await countInspections(reader, 'started'),
    toDo: await countInspections(reader, 'toDo'),
    finishedToday: await countFinished(reader, dayStart),
    notAcceptableToday: await countFinished(reader, dayStart, 'notAcceptable'),
    waitingForDecision: await countDeciding(reader),
    heldByAge: ages.map(({ fromDays, untilDays }) => ({
      fromDays,
      untilDays,
      lots: days.filter((age) => age < (untilDays ?? Infinity) && (fromDays === 0 || age >= fromDays)).length,
    })),
    notAcceptedByMonth: byMonth(timeZone, finished),
  }
}
