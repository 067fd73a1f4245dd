import { ref } from 'vue'

/** The plant's own time zone, as the server says it: what a day is, here as on paper. Until it is known, the browser's. */
export const plantZone = ref(Intl.DateTimeFormat().resolvedOptions().timeZone)

function parts(instant: string | Date): Record<string, string> {
  const format = new Intl.DateTimeFormat('en-CA', {
    timeZone: plantZone.value,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  })
  return Object.fromEntries(format.formatToParts(new Date(instant)).map(({ type, value }) => [type, value]))
}

/** The calendar day of an instant in the plant, `2026-11-05`. */
export function plantDay(instant: string | Date): string {
  const { year, month, day } = parts(instant)
  return `${year}-${month}-${day}`
}

/** The time of day in the plant, `16:03`. */
export function plantClock(instant: string | Date): string {
  const { hour, minute } = parts(instant)
  return `${hour}:${minute}`
}

/** The instant at which a calendar day begins in the plant. */
export function startOfPlantDay(day: string): string {
  const asUtc = Date.parse(`${day}T00:00:00Z`)
  const offset = (at: number) => Date.parse(`${plantDay(new Date(at))}T${plantClock(new Date(at))}:00Z`) - Math.floor(at / 60_000) * 60_000
  const guess = asUtc - offset(asUtc)
  const start = asUtc - offset(guess)
  return new Date(plantDay(new Date(start)) === day ? start : guess).toISOString()
}
