/** Days since 1970-01-01 of a calendar day. Source: proleptic Gregorian calendar, years counted from March. */
export function dayNumber(day: string): number {
  const [year = 1970, month = 1, date = 1] = day.split('-').map(Number)
  const y = month <= 2 ? year - 1 : year
  const era = Math.floor(y / 400)
  const yearOfEra = y - era * 400
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + date - 1
  return era * 146_097 + yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear - 719_468
}

/** The other way round: the calendar day, `2026-03-31`, that many days after 1970-01-01. */
export function dayAt(number: number): string {
  const shifted = number + 719_468
  const era = Math.floor(shifted / 146_097)
  const dayOfEra = shifted - era * 146_097
  const yearOfEra = Math.floor((dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36_524) - Math.floor(dayOfEra / 146_096)) / 365)
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100))
  const fromMarch = Math.floor((5 * dayOfYear + 2) / 153)
  const month = fromMarch < 10 ? fromMarch + 3 : fromMarch - 9
  const year = yearOfEra + era * 400 + (month <= 2 ? 1 : 0)
  const two = (value: number) => String(value).padStart(2, '0')
  return `${String(year).padStart(4, '0')}-${two(month)}-${two(dayOfYear - Math.floor((153 * fromMarch + 2) / 5) + 1)}`
}

/** The Monday of a calendar day's week, both `2026-03-31`. 1970-01-01 was a Thursday. */
export function mondayOf(day: string): string {
  const number = dayNumber(day)
  return dayAt(number - weekday(number))
}

/** Monday 0 to Sunday 6. */
const weekday = (number: number) => (((number + 3) % 7) + 7) % 7

/** So many days of work, Saturdays and Sundays left out; the first is the one given, whatever it is. Shape: `2026-03-31`, count → days. */
export function workDaysFrom(day: string, count: number): string[] {
  const days = [day]
  for (let number = dayNumber(day) + 1; days.length < count; number++) if (weekday(number) < 5) days.push(dayAt(number))
  return days
}
