import { describe, expect, it } from 'vitest'
import { Attempts } from './attempts'

function guard() {
  const clock = { time: 0, now: () => new Date(clock.time) }
  const attempts = new Attempts(clock)
  const isFree = (name: string, address = 'here') => {
    try {
      attempts.check(name, address)
      return true
    } catch (error) {
      expect(error).toMatchObject({ code: 'too_many_attempts' })
      return false
    }
  }
  return { clock, attempts, isFree }
}

describe('guessing a password', () => {
  it('is slowed from the third failure on, twice as long each time, up to five minutes', () => {
    const { clock, attempts, isFree } = guard()
    const waits: number[] = []
    for (let i = 0; i < 14; i++) {
      attempts.failed('rosa', `address ${i}`)
      let waited = 0
      while (!isFree('rosa', 'elsewhere')) {
        clock.time += 1000
        waited += 1
      }
      waits.push(waited)
    }
    expect(waits.slice(0, 7)).toEqual([0, 0, 1, 2, 4, 8, 16])
    expect(Math.max(...waits)).toBe(300)
  })

  it('does not care for upper and lower case of the name', () => {
    const { attempts, isFree } = guard()
    for (const name of ['rosa', 'Rosa', 'ROSA']) attempts.failed(name, name)
    expect(isFree('rOsA')).toBe(false)
    expect(isFree('tomek')).toBe(true)
  })

  it('is forgotten after a success and after an hour', () => {
    const { clock, attempts, isFree } = guard()
    for (let i = 0; i < 3; i++) attempts.failed('rosa', `a${i}`)
    attempts.succeeded('Rosa')
    expect(isFree('rosa')).toBe(true)
    for (let i = 0; i < 5; i++) attempts.failed('tomek', `b${i}`)
    clock.time += 2 * 3_600_000
    attempts.failed('somebody', 'x')
    attempts.failed('tomek', 'y')
    expect(isFree('tomek')).toBe(true)
  })

  it('over many names from one address is slowed too', () => {
    const { attempts, isFree } = guard()
    for (let i = 0; i < 30; i++) attempts.failed(`name ${i}`, 'one address')
    expect(isFree('fresh name', 'one address')).toBe(false)
    expect(isFree('fresh name', 'other address')).toBe(true)
  })
})
