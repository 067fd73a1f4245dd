import { CoreError } from '../errors'

/** The number of days of a month (1 to 12). */
function daysOf(year: number, month: number): number {
  if (month !== 2) return [4, 6, 9, 11].includes(month) ? 30 : 31
  return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28
}

/**
 * The day on which a gauge is due for calibration: so many months after the last one, on the same day of the month, or on its last day where
 * it has no such day. The day itself is still good (common practice).
 * Shape: day as `2026-11-30`, whole months from 1 to 600 → day.
 * @throws {CoreError} `interval_invalid`, `day_invalid`.
 */
export function calibrationDue(calibratedOn: string, months: number): string {
  if (!Number.isInteger(months) || months < 1 || months > 600)
    throw new CoreError('interval_invalid', `Received an interval of ${months} months. It is a whole number from 1 to 600.`, {
      received: months,
      field: 'intervalMonths',
    })
  const [, year = 0, month = 0, day = 0] = (/^(\d{4})-(\d{2})-(\d{2})$/.exec(calibratedOn) ?? []).map(Number)
  if (month < 1 || month > 12 || day < 1 || day > daysOf(year, month))
    throw new CoreError('day_invalid', `Received the day "${calibratedOn.slice(0, 40)}". A day is written year-month-day, such as 2026-11-30.`, {
      received: calibratedOn.slice(0, 40),
      field: 'calibratedOn',
    })
  const at = year * 12 + (month - 1) + months
  const [toYear, toMonth] = [Math.floor(at / 12), (at % 12) + 1]
  const two = (number: number) => String(number).padStart(2, '0')
  return `${String(toYear).padStart(4, '0')}-${two(toMonth)}-${two(Math.min(day, daysOf(toYear, toMonth)))}`
}
