import { dayAt, dayNumber } from '../numeric/calendar'

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'] as const

/** A calendar day in words that are read the same everywhere: `2026-11-05` → `5 Nov 2026`; without its year in `thisYear` (`'2026'`). */
export function dayInWords(day: string, thisYear = ''): string {
  const [year = '', month = '1', date = '1'] = day.split('-')
  return `${Number(date)} ${months[Number(month) - 1] ?? month}${year === thisYear ? '' : ` ${year}`}`
}

const real = (year: number, month: number, date: number): string | null => {
  const day = `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(date).padStart(2, '0')}`
  return month >= 1 && month <= 12 && date >= 1 && date <= 31 && year >= 1000 && dayAt(dayNumber(day)) === day ? day : null
}

/**
 * The calendar day that somebody means who types one: `2026-12-03`, `3 Dec`, `3 December 2026`, `Dec 3`, `3.12.`, `3.12.2026`, `today`,
 * `tomorrow`, `yesterday`, `+7`, `-3` (days from today). Without a year it is this year's. Two numbers between slashes are not taken: half
 * of the world reads them the other way round.
 * @param today the plant's day
 * @returns null where no such day is meant or there is none (31 Feb)
 */
export function dayTyped(text: string, today: string): string | null {
  const words = text.trim().toLowerCase()
  const thisYear = Number(today.slice(0, 4))
  const beside = { today: 0, tomorrow: 1, yesterday: -1 }[words] ?? (/^[+\-−]\d{1,4}$/.test(words) ? Number(words.replace('−', '-')) : null)
  if (beside !== null) return dayAt(dayNumber(today) + beside)
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(words)
  if (iso) return real(Number(iso[1]), Number(iso[2]), Number(iso[3]))
  const dotted = /^(\d{1,2})\. ?(\d{1,2})\.? ?(\d{4})?$/.exec(words)
  if (dotted) return real(Number(dotted[3] ?? thisYear), Number(dotted[2]), Number(dotted[1]))
  const named = /^(\d{1,2})\.? ?([a-z]{3,9})\.?,? ?(\d{4})?$/.exec(words) ?? /^([a-z]{3,9})\.? (\d{1,2})(?:,? (\d{4}))?$/.exec(words)
  if (!named) return null
  const [date, name] = /^\d/.test(named[1] ?? '') ? [named[1], named[2]] : [named[2], named[1]]
  const month = months.findIndex((entry) => longNames[entry].startsWith(name ?? '')) + 1
  return real(Number(named[3] ?? thisYear), month, Number(date))
}

const longNames: Readonly<Record<(typeof months)[number], string>> = {
  Jan: 'january',
  Feb: 'february',
  Mar: 'march',
  Apr: 'april',
  May: 'may',
  Jun: 'june',
  Jul: 'july',
  Aug: 'august',
  Sep: 'september',
  Oct: 'october',
  Nov: 'november',
  Dec: 'december',
}
