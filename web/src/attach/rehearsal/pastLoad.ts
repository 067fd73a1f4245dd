import { totalLoad, type RuledPoint, type WeeklyLoad } from '@nemawashi/core'
import type { PastOccasions } from '@nemawashi/contract'
import { count, whole } from '../../format/format'

type Reach = Pick<RuledPoint, 'partId' | 'familyId'>
/** Whose occasions are played: a part's, a family's, or all (nothing named). */
export interface Scope {
  readonly partId?: string
  readonly familyId?: string
}

/** The occasions that a change could touch: those of the wider of its reaches, before and after. */
export function scopeOf(reaches: readonly Reach[], familyId: string | null): Scope {
  if (reaches.some((reach) => reach.partId === null && reach.familyId === null)) return {}
  const family = reaches.find((reach) => reach.familyId !== null)
  if (family?.familyId != null) return { familyId: family.familyId }
  const parts = new Set(reaches.map(({ partId }) => partId))
  const [only] = parts
  if (parts.size === 1 && only != null) return { partId: only }
  return familyId === null ? {} : { familyId }
}

/** The control points in force, and the same with one in the place of the one that it changes. */
export function beforeAndAfter(points: PastOccasions['points'], changed: RuledPoint): [readonly RuledPoint[], readonly RuledPoint[]] {
  return [points, [...points.filter(({ id }) => id !== changed.id), changed]]
}

export const measures = ['inspections', 'pieces', 'minutes'] as const
export type Measure = (typeof measures)[number]

/** `12.5 h`, or minutes where it is less than two hours. */
export function timeWords(minutes: number): string {
  return minutes < 120 ? `${whole(Math.round(minutes))} min` : `${whole(Math.round(minutes / 60))} h`
}

/** Small numbers with a decimal: an inspection every other month is not none. */
const few = (value: number) => (value < 10 ? String(Number(value.toFixed(1))) : whole(Math.round(value)))

const daysAMonth = 365.2425 / 12

/** What it comes to, all and a month: `301 inspections, 5,120 pieces, 78 h; a month 25 inspections, 427 pieces, 6 h`. */
export function loadWords(weeks: readonly WeeklyLoad[], days: number): string {
  const { inspections, pieces, minutes } = totalLoad(weeks)
  const months = days / daysAMonth
  const all = `${count(inspections, 'inspection')}, ${count(pieces, 'piece')}, ${timeWords(minutes)}`
  if (months < 1.5 || inspections === 0) return all
  return `${all}; a month ${few(inspections / months)} inspections, ${few(pieces / months)} pieces, ${timeWords(minutes / months)}`
}

/** How much more or less it is: `12 inspections fewer, 340 pieces more`; empty where nothing changes. */
export function differenceWords(before: readonly WeeklyLoad[], after: readonly WeeklyLoad[]): string {
  const [a, b] = [totalLoad(before), totalLoad(after)]
  const said = (difference: number, words: (value: number) => string) =>
    difference === 0 ? [] : [`${words(Math.abs(difference))} ${difference > 0 ? 'more' : 'fewer'}`]
  const parts = [
    ...said(b.inspections - a.inspections, (value) => count(value, 'inspection')),
    ...said(b.pieces - a.pieces, (value) => count(value, 'piece')),
  ]
  const minutes = b.minutes - a.minutes
  if (minutes !== 0) parts.push(`${timeWords(Math.abs(minutes))} ${minutes > 0 ? 'more' : 'less'}`)
  return parts.join(', ')
}
