import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fillLines } from './purchaseOrder'

describe('a purchase order', () => {
  it('has open what was ordered and has not come, line by line', () => {
    const lines = [
      { partId: 'bar', quantity: 100 },
      { partId: 'ring', quantity: 40 },
    ]
    expect(fillLines(lines, new Map([['bar', 30]]))).toEqual([
      { received: 30, open: 70 },
      { received: 0, open: 40 },
    ])
  })

  it('fills the lines of one part in their order, and says with the last what came beyond them', () => {
    const lines = [
      { partId: 'bar', quantity: 100 },
      { partId: 'bar', quantity: 50 },
    ]
    expect(fillLines(lines, new Map([['bar', 120]]))).toEqual([
      { received: 100, open: 0 },
      { received: 20, open: 30 },
    ])
    expect(fillLines(lines, new Map([['bar', 160]]))).toEqual([
      { received: 100, open: 0 },
      { received: 60, open: 0 },
    ])
  })

  it('loses no piece that came, and is never open by more than was ordered', () => {
    const line = fc.record({ partId: fc.constantFrom('a', 'b'), quantity: fc.integer({ min: 1, max: 50 }) })
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 6 }), fc.nat(200), fc.nat(200), (lines, a, b) => {
        const fills = fillLines(
          lines,
          new Map([
            ['a', a],
            ['b', b],
          ]),
        )
        for (const [partId, came] of [
          ['a', a],
          ['b', b],
        ] as const) {
          const own = fills.filter((_, i) => lines[i]?.partId === partId)
          if (own.length > 0) expect(own.reduce((sum, { received }) => sum + received, 0)).toBe(came)
        }
        for (const [i, { received, open }] of fills.entries()) expect(open).toBe(Math.max(0, (lines[i]?.quantity ?? 0) - received))
      }),
    )
  })
})
