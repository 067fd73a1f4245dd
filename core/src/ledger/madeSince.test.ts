import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { looksBackwards, madeSince, type RunCheck } from './madeSince'

const check = (done: number, isAcceptable: boolean, held = 0): RunCheck => ({ code: `I-${done}`, done, isAcceptable, held })
const all = { goodSince: (done: number) => 200 - done, free: 1_000, held: 0 }

describe('what was made since the last check that conformed', () => {
  it('is counted from it, or from the beginning where none conformed', () => {
    expect(madeSince([check(150, true), check(50, true), check(100, false)], all)).toMatchObject({ since: 150, quantity: 50, toHold: 50, failed: [] })
    expect(madeSince([], all)).toMatchObject({ lastGood: null, since: 0, quantity: 200, toHold: 200 })
  })

  it('is held once: not what an earlier failing check of the same stretch holds, nor what this one holds already', () => {
    const checks = [check(50, false, 50), check(100, true), check(150, false, 50)]
    expect(madeSince(checks, all)).toMatchObject({ since: 100, quantity: 100, heldBefore: 50, toHold: 50 })
    expect(madeSince(checks, { ...all, held: 30 }).toHold).toBe(20)
    expect(madeSince(checks, { ...all, held: 90 }).toHold).toBe(0)
    expect(madeSince(checks, { ...all, free: 12 }).toHold).toBe(12)
  })

  it('never holds more than was made since, nor more than there is, whatever came before', () => {
    const any = fc.array(fc.record({ code: fc.constant('I'), done: fc.nat(200), isAcceptable: fc.boolean(), held: fc.nat(60) }), { maxLength: 8 })
    fc.assert(
      fc.property(any, fc.nat(300), fc.nat(60), (checks, free, held) => {
        const { toHold, quantity, heldBefore, since } = madeSince(checks, { ...all, free, held })
        return toHold >= 0 && toHold <= free && (toHold === 0 || toHold + heldBefore + held <= quantity) && quantity === 200 - since
      }),
    )
  })
})

describe('looking backwards', () => {
  it('begins in the middle, and finds where it began with no more looks than it says', () => {
    expect(looksBackwards(100, 150)).toEqual({ first: 125, most: 6 })
    expect(looksBackwards(100, 101)).toEqual({ first: null, most: 0 })
    fc.assert(
      fc.property(fc.nat(500), fc.integer({ min: 1, max: 500 }), fc.nat(500), (from, length, at) => {
        const began = from + 1 + (at % length)
        let [good, bad, looks] = [from, from + length, 0]
        const { most } = looksBackwards(good, bad)
        for (let next = looksBackwards(good, bad).first; next !== null; next = looksBackwards(good, bad).first) {
          looks += 1
          if (next < began) good = next
          else bad = next
        }
        expect(bad).toBe(began)
        return looks <= most
      }),
    )
  })
})
