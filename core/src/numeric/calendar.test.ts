import { describe, expect, it } from 'vitest'
import { dayAt, dayNumber, mondayOf, workDaysFrom } from './calendar'

describe('calendar days', () => {
  it('are numbered and back again as the clock of the machine does it, over four hundred years', () => {
    for (let number = -72_000; number < 146_097; number += 37) {
      const day = new Date(number * 86_400_000).toISOString().slice(0, 10)
      expect([dayAt(number), dayNumber(day)]).toEqual([day, number])
    }
  })

  it('belong to the week of their Monday', () => {
    const week = ['2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27', '2026-11-28', '2026-11-29']
    expect(new Set(week.map(mondayOf))).toEqual(new Set(['2026-11-23']))
    expect([mondayOf('2026-11-30'), mondayOf('2027-01-01'), mondayOf('1969-12-31')]).toEqual(['2026-11-30', '2026-12-28', '1969-12-29'])
  })

  it('of work leave Saturdays and Sundays out, and begin with the day that is asked for', () => {
    expect(workDaysFrom('2026-11-26', 5)).toEqual(['2026-11-26', '2026-11-27', '2026-11-30', '2026-12-01', '2026-12-02'])
    expect(workDaysFrom('2026-11-28', 3)).toEqual(['2026-11-28', '2026-11-30', '2026-12-01'])
  })
})
