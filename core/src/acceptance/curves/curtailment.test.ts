import { describe, expect, it } from 'vitest'
import { acceptancePerUnit, curtailedSize } from '../../index'

const code = (name: string) => expect.objectContaining({ code: name }) as Error

describe('the mean number of pieces with early stop', () => {
  it('never takes more from a lot than it has', () => {
    expect(() => curtailedSize([{ sampleSize: 80, accept: 1, reject: 2 }], { kind: 'lot', lotSize: 50, nonconforming: 3 })).toThrow(
      code('sample_size_invalid'),
    )
  })

  it('is what walking piece by piece gives, for a series, a lot and units, and takes no longer for large samples', () => {
    const walk = (n: number, c: number, next: (found: number, drawn: number) => number) => {
      let shares = [1]
      let sum = 0
      for (let drawn = 0; drawn < n; drawn++) {
        const after: number[] = []
        shares.forEach((share, found) => {
          if (found + (n - drawn) <= c || share === 0) return
          sum += share
          const p = next(found, drawn)
          after[found] = (after[found] ?? 0) + share * (1 - p)
          if (found + 1 <= c) after[found + 1] = (after[found + 1] ?? 0) + share * p
        })
        shares = after.map((share) => share ?? 0)
      }
      return sum
    }
    for (const [n, c, p] of [
      [20, 2, 0.1],
      [50, 0, 0.001],
      [80, 5, 0.3],
      [13, 12, 0.5],
    ] as const) {
      expect(curtailedSize([{ sampleSize: n, accept: c, reject: c + 1 }], { kind: 'series', fraction: p })).toBeCloseTo(
        walk(n, c, () => p),
        9,
      )
      const D = Math.round(200 * p)
      const lot = walk(n, c, (found, drawn) => Math.max(0, D - found) / (200 - drawn))
      expect(curtailedSize([{ sampleSize: n, accept: c, reject: c + 1 }], { kind: 'lot', lotSize: 200, nonconforming: D })).toBeCloseTo(lot, 9)
    }
    const units = (n: number, rate: number, c: number) =>
      curtailedSize([{ sampleSize: n, accept: c, reject: c + 1 }], { kind: 'perUnit', nonconformities: rate })
    // Added up unit by unit, where few and where many come on one; a sample whose Ac its size cannot reach is looked at all the same.
    for (const rate of [1e-4, 0.01, 0.049, 0.1, 0.7, 1, 3, 10])
      for (const n of [1, 5, 64, 65, 200, 3000])
        for (const c of [0, 1, 2, 3, 10, 100, 700]) {
          let summed = 0
          for (let t = 0; t < n; t++) summed += acceptancePerUnit(t * rate, c)
          expect(Math.abs(units(n, rate, c) / summed - 1), `${rate} ${n} ${c}`).toBeLessThan(1e-9)
        }
    expect(units(5, 0.2, 8)).toBeGreaterThan(4.99)
    expect(units(10_000_000, 1e-6, 3)).toBeGreaterThan(1e6)
  })
})
