import { describe, expect, it } from 'vitest'
import { Attempts } from './attempts'

function guard() {
  const clock = { time: 0 }
  const attempts = new Attempts(() => clock.time)
  /** Tries once; gives the seconds to wait, 0 where the try was looked at. */
  const fail = (name: string, address = 'here') => waitOf(() => attempts.signIn(name, address))
  const waitOf = (attempt: () => unknown): number => {
    try {
      attempt()
      return 0
    } catch (error) {
      expect(error).toMatchObject({ code: 'too_many_attempts' })
      return (error as { facts: { seconds: number } }).facts.seconds
    }
  }
  /** How long one has to wait now; a try that would be free is taken back. */
  const secondsLeft = (name: string) => {
    const failures = new Map((attempts as unknown as { failures: Map<string, object> }).failures)
    const wait = fail(name)
    Object.assign(attempts, { failures })
    return wait
  }
  return { clock, attempts, fail, waitOf, secondsLeft }
}

describe('guessing a password', () => {
  it('is slowed after the third try, twice as long each time, up to five minutes', () => {
    const { clock, fail, secondsLeft } = guard()
    const waits: number[] = []
    for (let i = 0; i < 12; i++) {
      expect(fail('rosa')).toBe(0)
      const wait = secondsLeft('rosa')
      waits.push(wait)
      clock.time += wait * 1000
    }
    expect(waits.slice(0, 7)).toEqual([0, 0, 1, 2, 4, 8, 16])
    expect(Math.max(...waits)).toBe(300)
  })

  it('many times at once is looked at three times', () => {
    const { fail } = guard()
    expect(Array.from({ length: 200 }, () => fail('rosa')).filter((wait) => wait === 0)).toHaveLength(3)
  })

  it('does not care for blanks, upper and lower case or forms of the letters of the name', () => {
    const { fail } = guard()
    for (const name of ['rosa', ' Rosa', 'ROSA  ', 'ＲＯＳＡ']) fail(name)
    expect(fail('rOsA ')).toBeGreaterThan(0)
    expect(fail('tomek')).toBe(0)
  })

  it('is forgotten after a success and after an hour', () => {
    const { clock, attempts, fail } = guard()
    for (let i = 0; i < 2; i++) fail('rosa')
    attempts.signIn('Rosa', 'here')()
    expect([fail('rosa'), fail('rosa'), fail('rosa')]).toEqual([0, 0, 0])
    for (let i = 0; i < 5; i++) fail('tomek')
    clock.time += 2 * 3_600_000
    expect([fail('tomek'), fail('tomek')]).toEqual([0, 0])
  })

  it('at one name from many addresses is slowed too, and never for long', () => {
    const { fail } = guard()
    for (let i = 0; i < 40; i++) fail('rosa', `address ${i}`)
    const wait = fail('rosa', 'another')
    expect(wait).toBeGreaterThan(0)
    expect(wait).toBeLessThanOrEqual(60)
  })

  it('over many names slows an address with a whole plant behind it by half a minute at most', () => {
    const { fail } = guard()
    for (let i = 0; i < 60; i++) expect(fail(`name ${i}`, 'proxy')).toBe(0)
    expect(fail('fresh name', 'proxy')).toBe(0)
    for (let i = 0; i < 300; i++) fail(`other ${i}`, 'proxy')
    expect(fail('fresh', 'proxy')).toBeGreaterThan(0)
    expect(fail('fresh', 'proxy')).toBeLessThanOrEqual(30)
    expect(fail('fresh', 'elsewhere')).toBe(0)
  })

  it('by a stranger never keeps somebody who is signed in from signing', () => {
    const { attempts, fail, waitOf } = guard()
    for (let i = 0; i < 500; i++) fail('anja', `address ${i % 7}`)
    expect(waitOf(() => attempts.seal('id of anja'))).toBe(0)
  })
})
