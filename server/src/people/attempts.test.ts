import { describe, expect, it } from 'vitest'
import { Attempts } from './attempts'
import { AttemptsInMemory } from './attemptStore'

function guard() {
  const clock = { time: 0 }
  const store = new AttemptsInMemory(() => clock.time)
  const attempts = new Attempts(store)
  /** Tries once; gives the seconds to wait, 0 where the try was looked at. */
  const fail = (name: string, address = 'here') => waitOf(() => attempts.signIn(name, address))
  const waitOf = async (attempt: () => Promise<unknown>): Promise<number> => {
    try {
      await attempt()
      return 0
    } catch (error) {
      expect(error).toMatchObject({ code: 'too_many_attempts' })
      return (error as { facts: { seconds: number } }).facts.seconds
    }
  }
  /** How long one has to wait now; a try that would be free is taken back. */
  const secondsLeft = async (name: string) => {
    const kept = [...store.kept]
    const wait = await fail(name)
    store.kept.clear()
    for (const [key, entry] of kept) store.kept.set(key, entry)
    return wait
  }
  return { clock, attempts, fail, waitOf, secondsLeft }
}

describe('guessing a password', () => {
  it('is slowed after the third try, twice as long each time, up to five minutes', async () => {
    const { clock, fail, secondsLeft } = guard()
    const waits: number[] = []
    for (let i = 0; i < 12; i++) {
      expect(await fail('rosa')).toBe(0)
      const wait = await secondsLeft('rosa')
      waits.push(wait)
      clock.time += wait * 1000
    }
    expect(waits.slice(0, 7)).toEqual([0, 0, 1, 2, 4, 8, 16])
    expect(Math.max(...waits)).toBe(300)
  })

  it('many times at once is looked at three times', async () => {
    const { fail } = guard()
    expect((await Promise.all(Array.from({ length: 200 }, () => fail('rosa')))).filter((wait) => wait === 0)).toHaveLength(3)
  })

  it('does not care for blanks, upper and lower case or forms of the letters of the name', async () => {
    const { fail } = guard()
    for (const name of ['rosa', ' Rosa', 'ROSA  ', 'ＲＯＳＡ']) await fail(name)
    expect(await fail('rOsA ')).toBeGreaterThan(0)
    expect(await fail('tomek')).toBe(0)
  })

  it('is forgotten after a success and after an hour', async () => {
    const { clock, attempts, fail } = guard()
    for (let i = 0; i < 2; i++) await fail('rosa')
    await (
      await attempts.signIn('Rosa', 'here')
    )()
    expect([await fail('rosa'), await fail('rosa'), await fail('rosa')]).toEqual([0, 0, 0])
    for (let i = 0; i < 5; i++) await fail('tomek')
    clock.time += 2 * 3_600_000
    expect([await fail('tomek'), await fail('tomek')]).toEqual([0, 0])
  })

  it('at one name from many addresses is slowed too, and never for long', async () => {
    const { fail } = guard()
    for (let i = 0; i < 60; i++) await fail('rosa', `address ${i}`)
    const wait = await fail('rosa', 'another')
    expect(wait).toBeGreaterThan(0)
    expect(wait).toBeLessThanOrEqual(60)
  })

  it('over many names slows an address with a whole plant behind it by half a minute at most', async () => {
    const { fail } = guard()
    for (let i = 0; i < 60; i++) expect(await fail(`name ${i}`, 'proxy')).toBe(0)
    expect(await fail('fresh name', 'proxy')).toBe(0)
    for (let i = 0; i < 300; i++) await fail(`other ${i}`, 'proxy')
    expect(await fail('fresh', 'proxy')).toBeGreaterThan(0)
    expect(await fail('fresh', 'proxy')).toBeLessThanOrEqual(30)
    expect(await fail('fresh', 'elsewhere')).toBe(0)
  })

  it('by a stranger never keeps somebody who is signed in from signing', async () => {
    const { attempts, fail, waitOf } = guard()
    for (let i = 0; i < 500; i++) await fail('anja', `address ${i % 7}`)
    expect(await waitOf(() => attempts.seal('id of anja'))).toBe(0)
  })
})

describe('the owner of a name that strangers guess at', () => {
  it('gets a turn from an address where nobody failed, and from a device that was signed in on before', async () => {
    const { fail, waitOf, attempts } = guard()
    for (let i = 0; i < 25; i++) await fail('rosa', `stranger ${i}`)
    // The name waits by now; where strangers have failed already, all of it counts.
    expect(await fail('rosa', 'stranger 3')).toBeGreaterThan(0)
    const succeeded = await attempts.signIn('rosa', 'her bench')
    await succeeded()
    for (let i = 0; i < 40; i++) await fail('rosa', `another stranger ${i}`)
    // Addresses that are new every time are no way around it for long.
    expect(await fail('rosa', 'one more')).toBeGreaterThan(0)
    expect(await waitOf(() => attempts.signIn('rosa', 'one more', 'her device'))).toBe(0)
  })

  it('is counted by the device itself: five failures there, and it waits like any', async () => {
    const { waitOf, attempts } = guard()
    const waits = []
    for (let i = 0; i < 6; i++) waits.push(await waitOf(() => attempts.signIn('rosa', 'here', 'her device')))
    expect(waits).toEqual([0, 0, 0, 0, 0, 1])
  })
})
