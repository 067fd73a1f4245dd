import { dayInWords, quantityWords, parseDecimal, quantityText, stockUnitOf } from '@nemawashi/core'
import { plantClock, plantDay } from '../shell/plantTime'

const narrow = '\u00a0'

/** 1200 → 1 200, with a space that does not break. */
export function whole(value: number): string {
  return spaced(String(value))
}

/** Blanks in the whole number that a text begins with. */
function spaced(text: string): string {
  return text.replace(/\d+/, (digits) => digits.replaceAll(/\B(?=(\d{3})+(?!\d))/g, narrow))
}

/** A quantity in whole steps of its unit as a number, with the decimals of the unit: `1 250.50`. */
export function figureOf(quantity: number, unit: string): string {
  return spaced(quantityText(quantity, unit))
}

/** The same with the unit: `240 pieces`, `1 bar`, `1 250.50 kg`. */
export function amount(quantity: number, unit: string): string {
  return spaced(quantityWords(quantity, unit))
}

/** What somebody typed as a quantity in whole steps of the unit: NaN where it is no number, a broken number where it is finer than the step. */
export function typedQuantity(typed: string, unit: string): number {
  try {
    return Number((Number(parseDecimal(typed.replaceAll(/\s/g, ''))) * 10 ** stockUnitOf(unit).places).toFixed(6))
  } catch {
    return Number.NaN
  }
}

/** `1 line`, `3 lines`. */
export function count(value: number, word: string): string {
  return `${whole(value)} ${word}${value === 1 ? '' : 's'}`
}

/** `5 Nov`, with the year when it is another one; days and times are those of the plant. */
export function dayOf(instant: string): string {
  return dayWords(plantDay(instant))
}

/** The same of a calendar day, `2026-11-05`. */
export function dayWords(day: string): string {
  return dayInWords(day, plantDay(new Date()).slice(0, 4))
}

/** Whether a calendar day lies before today, in the plant. */
export const isPast = (day: string) => day < plantDay(new Date())

/** `5 Nov 16:03`; today's only `16:03`. */
export function momentOf(instant: string): string {
  return plantDay(instant) === plantDay(new Date()) ? plantClock(instant) : `${dayOf(instant)} ${plantClock(instant)}`
}

/** What an inspection looks at, by its whole number: a container or a piece by its own, else the lot or the load. */
export const lookedAt = ({ unitLabel, lotCode }: { unitLabel: string | null; lotCode: string }) => unitLabel ?? lotCode

/** What the queue says of the samples of an inspection: `n 13, 2 lines`. */
export function sampleWords({ sampleMost, lineCount }: { sampleMost: number | null; lineCount: number | null }): string {
  return sampleMost === null || lineCount === null ? '–' : `n ${whole(sampleMost)}, ${count(lineCount, 'line')}`
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
export function limitsWords(limits: { lower: string | null; upper: string | null; unit: string | null }): string {
  const unit = limits.unit ? ` ${limits.unit}` : ''
  if (limits.lower !== null && limits.upper !== null) return `${limits.lower} to ${limits.upper}${unit}`
  return limits.lower !== null ? `at least ${limits.lower}${unit}` : `at most ${limits.upper}${unit}`
}

export const stateWords: Readonly<Record<string, string>> = {
  toDo: 'to do',
  started: 'started',
  finished: 'waits for a decision',
  decided: 'decided',
  cancelled: 'cancelled',
  draft: 'draft',
  released: 'released',
  retired: 'retired',
  active: 'active',
}

export const dispatchWords = { planned: 'planned', picked: 'picked, free to leave', sent: 'has left', cancelled: 'cancelled' } as const

export const verdictWords: Readonly<Record<string, string>> = { acceptable: 'acceptable', notAcceptable: 'not acceptable', notJudged: 'not judged' }

/** The mark that stands for a verdict. */
export function verdictMark(verdict: string | null): 'conforming' | 'nonconforming' | 'notJudged' {
  return verdict === 'acceptable' ? 'conforming' : verdict === 'notAcceptable' ? 'nonconforming' : 'notJudged'
}
