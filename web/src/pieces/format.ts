import { quantityWords } from '@nemawashi/core'

const narrow = '\u00a0'

/** 1200 → 1 200, with a space that does not break. */
export function whole(value: number): string {
  return String(value).replaceAll(/\B(?=(\d{3})+(?!\d))/g, narrow)
}

/** `240 pieces`, `1 bar`, `60 kg`. */
export function amount(value: number, unit: string): string {
  return quantityWords(value, unit).replace(/^\d+/, whole(value))
}

/** `1 line`, `3 lines`. */
export function count(value: number, word: string): string {
  return `${whole(value)} ${word}${value === 1 ? '' : 's'}`
}

const sameYear: Intl.DateTimeFormatOptions = { day: 'numeric', month: 'short' }
const time: Intl.DateTimeFormatOptions = { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }

/** `5 Nov`, with the year when it is another one. */
export function dayOf(instant: string): string {
  const date = new Date(instant)
  const isThisYear = date.getFullYear() === new Date().getFullYear()
  return date.toLocaleDateString('en-GB', isThisYear ? sameYear : { ...sameYear, year: 'numeric' })
}

/** The same of a calendar day, `2026-11-05`, wherever the reader is. */
export function dayWords(day: string): string {
  return dayOf(`${day}T12:00`)
}

/** `5 Nov 16:03`; today's only `16:03`. */
export function momentOf(instant: string): string {
  const date = new Date(instant)
  const clock = date.toLocaleTimeString('en-GB', time)
  return date.toDateString() === new Date().toDateString() ? clock : `${dayOf(instant)} ${clock}`
}

/** How long ago: `40 min`, `3 h`, `2 d 4 h`, and days alone from the fourth on. */
export function since(instant: string, now = Date.now()): string {
  const minutes = Math.max(0, Math.floor((now - Date.parse(instant)) / 60_000))
  if (minutes < 60) return `${minutes} min`
  const hours = Math.floor(minutes / 60)
  if (hours < 24) return `${hours} h`
  const days = Math.floor(hours / 24)
  return days > 3 ? `${days} d` : `${days} d ${hours % 24} h`
}

/** Limits in words: `0.25 to 0.35 mm`, `at least 145 HBW`. */
export function limitsWords(of: { lower: string | null; upper: string | null; unit: string | null }): string {
  const unit = of.unit ? ` ${of.unit}` : ''
  if (of.lower !== null && of.upper !== null) return `${of.lower} to ${of.upper}${unit}`
  return of.lower !== null ? `at least ${of.lower}${unit}` : `at most ${of.upper}${unit}`
}

export const stateWords: Readonly<Record<string, string>> = {
  toDo: 'to do',
  started: 'started',
  finished: 'waits for a decision',
  decided: 'decided',
  draft: 'draft',
  released: 'released',
  retired: 'retired',
  active: 'active',
}

export const verdictWords: Readonly<Record<string, string>> = { acceptable: 'acceptable', notAcceptable: 'not acceptable', notJudged: 'not judged' }

/** The mark that stands for a verdict. */
export function verdictMark(verdict: string | null): 'conforming' | 'nonconforming' | 'notJudged' {
  return verdict === 'acceptable' ? 'conforming' : verdict === 'notAcceptable' ? 'nonconforming' : 'notJudged'
}
