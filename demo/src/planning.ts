import { endpoints } from '@nemawashi/contract'
import { day, type Stage } from './stage'

const { people, record } = endpoints

/** Which of the inspections that nobody has, in the order of their numbers, for whom, and how many days from now. */
const plans: readonly (readonly [who: string, inDays: number])[] = [
  ['tomek', -1],
  ['rosa', 0],
  ['tomek', 0],
  ['rosa', 0],
  ['rosa', 1],
  ['tomek', 1],
]

const dayOf = (timeZone: string, at: number) =>
  new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(new Date(at))

/** The engineer has planned a part of what waits; the rest is for whoever comes next. */
export async function planTheBench(stage: Stage): Promise<void> {
  const ilse = stage.by('ilse')
  const { rows } = await ilse.call(record.listInspections, { query: { own: 'free', sort: 'code', dir: 'asc' } })
  for (const [i, [who, inDays]] of plans.entries()) {
    const row = rows[i]
    const { person, timeZone } = await stage.by(who).call(people.getSession, {})
    if (!row || !person) return
    const body = { personId: person.id, day: dayOf(timeZone, stage.now() + inDays * day), version: 0 }
    await ilse.call(record.assignInspection, { params: { id: row.id }, body })
  }
}
