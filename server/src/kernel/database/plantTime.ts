type Parts = Intl.DateTimeFormatOptions
const formats = new Map<string, Intl.DateTimeFormat>()

/** Making a format takes longer than a thousand instants. */
function formatOf(name: 'day' | 'time' | 'all', locale: string, timeZone: string, parts: Parts): Intl.DateTimeFormat {
  const known = formats.get(`${name} ${timeZone}`) ?? new Intl.DateTimeFormat(locale, { timeZone, ...parts })
  formats.set(`${name} ${timeZone}`, known)
  return known
}

/** The calendar day of an instant in a time zone, `2026-03-02`. */
export function dayIn(timeZone: string, instant: string | Date): string {
  return formatOf('day', 'en-CA', timeZone, { year: 'numeric', month: '2-digit', day: '2-digit' }).format(new Date(instant))
}

/** The day of an instant in the plant: whoever has the plant's database, or a change of it, knows the zone. */
export const dayOf = ({ timeZone }: { readonly timeZone: string }, instant: string | Date): string => dayIn(timeZone, instant)

/** Day and time of an instant in a time zone, to the minute: `2026-03-02 14:05`. */
export function momentIn(timeZone: string, instant: string | Date): string {
  const time = formatOf('time', 'en-GB', timeZone, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(new Date(instant))
  return `${dayIn(timeZone, instant)} ${time}`
}

/** How far the zone is ahead of UTC at an instant, in milliseconds. */
function offsetMs(timeZone: string, instant: Date): number {
  const parts = formatOf('all', 'en-US', timeZone, {
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
  }).formatToParts(instant)
  const partOf = (type: string) => Number(parts.find((part) => part.type === type)?.value ?? 0)
  return (
    Date.UTC(partOf('year'), partOf('month') - 1, partOf('day'), partOf('hour'), partOf('minute'), partOf('second')) -
    Math.floor(instant.getTime() / 1000) * 1000
  )
}

/** The instant at which a calendar day begins in a time zone; of a day whose midnight is left out, its first instant. */
export function startOfDay(timeZone: string, day: string): Date {
  const asUtc = Date.parse(`${day}T00:00:00Z`)
  // The offset is asked for twice: the first guess may lie on the other side of a change of the clocks.
  const guess = new Date(asUtc - offsetMs(timeZone, new Date(asUtc)))
  const start = new Date(asUtc - offsetMs(timeZone, guess))
  return dayIn(timeZone, start) === day ? start : guess
}
