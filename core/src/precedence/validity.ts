import { dayAt, dayNumber } from '../numeric/calendar'
import { dayInWords } from './dayWords'

/** The first and the last calendar day on which something is in force, `2026-03-31`; null for no such day. */
export interface Validity {
  readonly validFrom: string | null
  readonly validUntil: string | null
}

export function isInForce({ validFrom, validUntil }: Validity, day: string): boolean {
  return (validFrom === null || validFrom <= day) && (validUntil === null || day <= validUntil)
}

/** The day before or after. Shape: calendar day, whole days → calendar day. */
export function dayBeside(day: string, days: number): string {
  return dayAt(dayNumber(day) + days)
}

/**
 * Which of its days cannot be said today any more; null where both can. A beginning in the past would say that something asked before it was there,
 * so only the one that it has stays; with its last day over it would never ask again, and what it asked until then stays as it was.
 */
export function dayThatIsOver(next: Validity, current: Validity | null, today: string): keyof Validity | null {
  if (next.validFrom !== null && next.validFrom < today && next.validFrom !== current?.validFrom) return 'validFrom'
  return next.validUntil !== null && next.validUntil < today ? 'validUntil' : null
}

/** The days on which both are in force; null where there is none. An end that is null is open. */
export function overlapOf(a: Validity, b: Validity): Validity | null {
  const from = a.validFrom === null ? b.validFrom : b.validFrom === null ? a.validFrom : a.validFrom > b.validFrom ? a.validFrom : b.validFrom
  const until =
    a.validUntil === null ? b.validUntil : b.validUntil === null ? a.validUntil : a.validUntil < b.validUntil ? a.validUntil : b.validUntil
  return from !== null && until !== null && from > until ? null : { validFrom: from, validUntil: until }
}

/** Days between the first and the last on which none is in force, in order. Shape: Validity[] in any order → { from, until }[]. */
export function gapsOf(all: readonly Validity[]): { readonly from: string; readonly until: string }[] {
  const gaps: { from: string; until: string }[] = []
  const inOrder = [...all].sort((a, b) => ((a.validFrom ?? '') < (b.validFrom ?? '') ? -1 : 1))
  let reached: string | null | undefined
  for (const { validFrom, validUntil } of inOrder) {
    if (reached !== undefined && reached !== null && validFrom !== null && validFrom > dayBeside(reached, 1))
      gaps.push({ from: dayBeside(reached, 1), until: dayBeside(validFrom, -1) })
    if (reached === undefined || (reached !== null && (validUntil === null || validUntil > reached))) reached = validUntil
  }
  return gaps
}

/** `from 3 Mar 2026`, `until 31 Mar 2026`, both, or nothing where it is without end on both sides. */
export function describeValidity({ validFrom, validUntil }: Validity): string {
  return [validFrom === null ? '' : `from ${dayInWords(validFrom)}`, validUntil === null ? '' : `until ${dayInWords(validUntil)}`]
    .filter(Boolean)
    .join(' ')
}
