import type { InspectionRow } from '@nemawashi/contract'
import { plantDay } from '../../shell/plantTime'
import { dayWords, momentOf } from '../../format/format'
import { isLate } from '../../format/isLate'

/** When something is to be done: `by 16:03` on this day of the plant, `due 3 Dec 09:00` later, `late: …`, or the day that it is planned for. */
export function dueWords({ dueAt, day }: Pick<InspectionRow, 'dueAt' | 'day'>, now = new Date()): string {
  if (dueAt === null) return day ? `for ${dayWords(day)}` : ''
  return `${isLate({ dueAt }) ? 'late: ' : plantDay(dueAt) === plantDay(now) ? 'by ' : 'due '}${momentOf(dueAt)}`
}
