import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dayAt } from '../numeric/calendar'
import { dayBeside, gapsOf, isInForce, overlapOf, describeValidity, type Validity } from './validity'

const window = (validFrom: string | null, validUntil: string | null): Validity => ({ validFrom, validUntil })
const from = 20_500
const someDay = fc.option(fc.integer({ min: from, max: from + 30 }).map(dayAt), { nil: null })
const someWindow = fc.tuple(someDay, someDay).map(([a, b]) => (a !== null && b !== null && a > b ? window(b, a) : window(a, b)))
const days = Array.from({ length: 40 }, (_, i) => dayAt(from - 5 + i))

describe('days on which something is in force', () => {
  it('overlap on exactly the days that both have', () => {
    fc.assert(
      fc.property(someWindow, someWindow, (a, b) => {
        const both = overlapOf(a, b)
        for (const day of days) expect(both !== null && isInForce(both, day)).toBe(isInForce(a, day) && isInForce(b, day))
      }),
    )
  })

  it('leave gaps on exactly the days between the first and the last that none has, whatever their order', () => {
    fc.assert(
      fc.property(fc.array(someWindow, { minLength: 1, maxLength: 5 }), (all) => {
        const gaps = gapsOf(all)
        expect(gapsOf([...all].reverse())).toEqual(gaps)
        const covered = days.filter((day) => all.some((period) => isInForce(period, day)))
        for (const day of days) {
          const isBetween =
            all.some((period) => period.validUntil !== null && period.validUntil < day) &&
            all.some((period) => period.validFrom !== null && day < period.validFrom)
          expect(gaps.some((gap) => gap.from <= day && day <= gap.until)).toBe(isBetween && !covered.includes(day))
        }
      }),
    )
  })

  it('are told in words, and have days beside them over the ends of months', () => {
    expect(gapsOf([window(null, '2026-02-27'), window('2026-03-05', null)])).toEqual([{ from: '2026-02-28', until: '2026-03-04' }])
    expect(gapsOf([window(null, '2026-02-28'), window('2026-03-01', null)])).toEqual([])
    expect([dayBeside('2026-02-28', 1), dayBeside('2026-01-01', -1)]).toEqual(['2026-03-01', '2025-12-31'])
    expect([describeValidity(window('2026-03-01', '2026-04-01')), describeValidity(window(null, null))]).toEqual([
      'from 1 Mar 2026 until 1 Apr 2026',
      '',
    ])
  })
})
