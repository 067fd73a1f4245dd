import { expect, it } from 'vitest'
import { isAttended, watchAttendance } from './attended'

it('a page counts as left a minute after the last key, click or touch, and no longer once somebody is back', () => {
  watchAttendance(window)
  window.dispatchEvent(new Event('keydown'))
  const now = Date.now()
  expect([isAttended(now + 59_000), isAttended(now + 61_000)]).toEqual([true, false])
  const before = Date.now
  try {
    Date.now = () => now + 300_000
    expect(isAttended()).toBe(false)
    window.dispatchEvent(new Event('pointerdown'))
    expect(isAttended()).toBe(true)
  } finally {
    Date.now = before
  }
})
