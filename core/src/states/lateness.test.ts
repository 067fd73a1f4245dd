import { expect, it } from 'vitest'
import { isLate, lateWords, minutesLate } from './lateness'

const minute = 60_000

it('something is late after the moment that it was due at, and never where none was set', () => {
  expect([isLate(1_000, 1_000), isLate(1_000, 1_001), isLate(null, Infinity)]).toEqual([false, true, false])
})

it('how late it was done is told in whole minutes, a second of lateness as one', () => {
  expect([minutesLate(0, 0), minutesLate(0, 1), minutesLate(0, 130 * minute + 59_000), minutesLate(null, 5), minutesLate(0, null)]).toEqual([
    0, 1, 130, 0, 0,
  ])
  expect([0, 1, 40, 60, 130, 1440, 1500, 2 * 1440 + 59, 4560].map(lateWords)).toEqual([
    '',
    '1 min late',
    '40 min late',
    '1 h late',
    '2 h 10 min late',
    '1 day late',
    '1 day 1 h late',
    '2 days late',
    '3 days 4 h late',
  ])
})
