import { describe, expect, it } from 'vitest'
import { intervalPassed, intervalsIn, isPaused, runningMinutes, type ReportAt } from './stepRun'

const minute = 60_000
const at = (kind: ReportAt['kind'], minutes: number): ReportAt => ({ kind, atMs: minutes * minute })

describe('a step that runs', () => {
  it('counts its minutes without its pauses', () => {
    expect(runningMinutes(0, [], 30 * minute)).toBe(30)
    expect(runningMinutes(0, [at('pieces', 5), at('paused', 10), at('setUp', 12), at('resumed', 25)], 30 * minute)).toBe(15)
    expect(runningMinutes(0, [at('paused', 10)], 30 * minute)).toBe(10)
    // A second pause within one, or an end of none, changes nothing.
    expect(runningMinutes(0, [at('paused', 10), at('paused', 12), at('resumed', 20)], 30 * minute)).toBe(20)
    expect(runningMinutes(0, [at('resumed', 5)], 30 * minute)).toBe(30)
    expect(isPaused([])).toBe(false)
    // A clock that was set back does not run backwards.
    expect(runningMinutes(30 * minute, [], 0)).toBe(0)
    expect([isPaused([at('paused', 1)]), isPaused([at('paused', 1), at('pieces', 2)]), isPaused([at('paused', 1), at('resumed', 2)])]).toEqual([
      true,
      true,
      false,
    ])
  })

  it('brings an interval up once, for all that was made since the last time', () => {
    expect([intervalsIn(49, 50), intervalsIn(120, 50), intervalsIn(500, 50)]).toEqual([0, 2, 10])
    expect(intervalPassed(0, 49, 50)).toBeNull()
    expect(intervalPassed(0, 50, 50)).toEqual({ at: 50, since: 50 })
    expect(intervalPassed(50, 99, 50)).toBeNull()
    expect(intervalPassed(40, 120, 50)).toEqual({ at: 100, since: 100 })
    expect(intervalPassed(29.9, 30.1, 15)).toEqual({ at: 30, since: 15 })
  })
})
