import { describe, expect, it } from 'vitest'
import { dayAt, dayNumber } from '../numeric/calendar'
import { dayInWords, dayTyped } from './dayWords'

describe('a calendar day in words', () => {
  it('is said without its year where that is known, and with it elsewhere', () => {
    expect([dayInWords('2026-11-05'), dayInWords('2026-11-05', '2026'), dayInWords('2027-01-31', '2026')]).toEqual([
      '5 Nov 2026',
      '5 Nov',
      '31 Jan 2027',
    ])
  })

  it.each([
    ['2026-12-03', '2026-12-03'],
    ['3 Dec', '2026-12-03'],
    ['3 december 2027', '2027-12-03'],
    ['Dec 3', '2026-12-03'],
    ['Sept 9, 2026', '2026-09-09'],
    ['3.12.', '2026-12-03'],
    ['03.12.2027', '2027-12-03'],
    ['today', '2026-11-30'],
    ['Tomorrow', '2026-12-01'],
    ['+7', '2026-12-07'],
    ['-30', '2026-10-31'],
    ['29 Feb 2028', '2028-02-29'],
  ])('%s is meant as %s', (typed, day) => expect(dayTyped(typed, '2026-11-30')).toBe(day))

  it.each(['31 Feb', '29.2.2026', '3/4/2026', '12', 'soon', '', '0 Dec', '3 Dece mber', '2026-13-01', '32 Jan', 'Ju 3'])('%s is no day', (typed) =>
    expect(dayTyped(typed, '2026-11-30')).toBeNull(),
  )

  it('what is said is understood again, of every day in forty years', () => {
    for (let at = dayNumber('2010-01-01'); at < dayNumber('2050-01-01'); at++) {
      const day = dayAt(at)
      if (dayTyped(dayInWords(day), '2026-11-30') !== day || dayTyped(dayInWords(day, day.slice(0, 4)), `${day.slice(0, 4)}-06-01`) !== day)
        expect.unreachable(day)
    }
  })
})
