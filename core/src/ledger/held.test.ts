import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { freeable, heldQuantity, takeFrom, type OpenHoldOn } from './held'
import { holdReaches } from './holdReaches'
import type { Balance } from './movement'

const spot = (quantity: number, change: Partial<Balance> = {}): Balance => ({
  containerId: null,
  placeId: 'bay',
  standing: 'onHold',
  sublot: '',
  quantity,
  ...change,
})
const hold = (change: Partial<OpenHoldOn> = {}): OpenHoldOn => ({ containerId: null, eventId: null, quantity: null, ...change })
const count = (taken: readonly { quantity: number }[]) => taken.reduce((sum, { quantity }) => sum + quantity, 0)

describe('what a cause holds', () => {
  it('is all that is on hold of the pieces that it means, and of a sample no more than was taken', () => {
    const balances = [spot(10), spot(4, { sublot: 'back' }), spot(7, { standing: 'released' })]
    expect(heldQuantity([hold()], balances)).toBe(14)
    expect(heldQuantity([hold({ eventId: 'back' })], balances)).toBe(4)
    expect(heldQuantity([hold({ quantity: 5 })], balances)).toBe(5)
    expect(heldQuantity([hold({ quantity: 50 })], balances)).toBe(14)
    expect(heldQuantity([hold({ quantity: 5 }), hold()], balances)).toBe(14)
    expect(heldQuantity([], balances)).toBe(0)
  })
})

describe('what is free', () => {
  it('is what no other hold of all reaches: of two dispatches of a lot the one is free while the other is held', () => {
    const spots = [spot(6, { sublot: 'first' }), spot(4, { sublot: 'second' })]
    expect(freeable(spots, spots, [hold({ eventId: 'second' })], 10)).toEqual([{ spot: spots[0], quantity: 6 }])
    expect(freeable(spots, spots, [hold()], 10)).toEqual([])
  })

  it('leaves as many on hold as the largest sample that is still held asks for', () => {
    const spots = [spot(8)]
    expect(count(freeable(spots, spots, [hold({ quantity: 5 })], 8))).toBe(3)
    expect(count(freeable(spots, spots, [hold({ quantity: 5 }), hold({ quantity: 6 })], 8))).toBe(2)
    expect(count(freeable(spots, spots, [hold({ quantity: 9 })], 8))).toBe(0)
  })

  it('never frees a piece that a hold of all reaches, leaves every sample its pieces, and no more than is asked for', () => {
    const name = fc.constantFrom('', 'a', 'b', 'a/b')
    const spots = fc.array(fc.record({ quantity: fc.integer({ min: 1, max: 20 }), sublot: name, containerId: fc.constantFrom(null, 'box') }), {
      maxLength: 5,
    })
    const holds = fc.array(
      fc.record({
        containerId: fc.constantFrom(null, 'box'),
        eventId: fc.constantFrom(null, 'a', 'b'),
        quantity: fc.option(fc.integer({ min: 1, max: 30 })),
      }),
      { maxLength: 4 },
    )
    fc.assert(
      fc.property(spots, holds, fc.integer({ min: 0, max: 60 }), (there, open, wanted) => {
        const balances = there.map((held) => spot(held.quantity, held))
        const free = freeable(balances, balances, open, wanted)
        expect(count(free)).toBeLessThanOrEqual(wanted)
        for (const held of open) {
          const freed = count(free.filter((taken) => holdReaches(held, taken.spot)))
          const before = count(balances.filter((at) => holdReaches(held, at)))
          if (held.quantity === null) expect(freed).toBe(0)
          else expect(before - freed).toBeGreaterThanOrEqual(Math.min(held.quantity, before))
        }
      }),
    )
  })
})

it('pieces are taken from spots in their order, as far as they go', () => {
  const [first, second] = [spot(3), spot(5, { placeId: 'dock' })]
  expect(takeFrom([first, second], 4)).toEqual([
    { spot: first, quantity: 3 },
    { spot: second, quantity: 1 },
  ])
  expect(count(takeFrom([first, second], 100))).toBe(8)
})
