/** Where on the planning board: a person's day, a person without a day, or nobody. */
export interface BoardPlace {
  readonly personId: string | null
  readonly day: string | null
}
interface Board {
  readonly people: readonly { readonly id: string }[]
  readonly days: readonly string[]
}
const steps: Readonly<Record<string, readonly [down: number, right: number]>> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
}

/**
 * Where an arrow leads from a place: another person, another day; from nobody to the first person's first day, and left of the first day
 * back to nobody. Null for a key that leads nowhere.
 */
export function placeAfter(key: string, { personId, day }: BoardPlace, { people, days }: Board): BoardPlace | null {
  const step = steps[key]
  if (!step) return null
  const [down, right] = step
  const row = people.findIndex(({ id }) => id === personId)
  if (row === -1) return { personId: people[0]?.id ?? null, day: days[0] ?? null }
  const column = (day === null ? -1 : days.indexOf(day)) + right
  if (column < 0) return { personId: null, day: null }
  const person = people[Math.max(0, Math.min(people.length - 1, row + down))]
  return { personId: person?.id ?? null, day: days[Math.min(days.length - 1, column)] ?? null }
}

/** The first day of the next page, or of the one before: as many days of work further on or back as are shown. */
export function pageAfter(by: 1 | -1, days: readonly string[]): string {
  const day = new Date(`${by > 0 ? (days.at(-1) ?? '') : (days[0] ?? '')}T12:00:00Z`)
  for (let left = by > 0 ? 1 : days.length; left > 0; left--) {
    do day.setUTCDate(day.getUTCDate() + by)
    while (day.getUTCDay() % 6 === 0)
  }
  return day.toISOString().slice(0, 10)
}
