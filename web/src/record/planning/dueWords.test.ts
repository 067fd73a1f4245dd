import { afterEach, expect, it, vi } from 'vitest'
import { plantZone } from '../../shell/plantTime'
import { dueWords } from './dueWords'

const zone = plantZone.value
afterEach(() => {
  plantZone.value = zone
  vi.useRealTimers()
})

it("says by when, by the plant's day and not by that of the instant", () => {
  // Half past five on 3 March in Kathmandu, and still 2 March where instants are written.
  vi.useFakeTimers({ now: new Date('2026-03-02T23:45:00Z') })
  plantZone.value = 'Asia/Kathmandu'
  const due = (dueAt: string | null, day: string | null = null) => dueWords({ dueAt, day })
  expect(due('2026-03-03T03:15:00Z')).toBe('by 09:00')
  expect(due('2026-03-03T20:15:00Z')).toMatch(/^due 4 Mar 02:00$/)
  expect(due('2026-03-02T23:15:00Z')).toBe('late: 05:00')
  expect([due(null, '2026-03-05'), due(null)]).toEqual(['for 5 Mar', ''])
})
