import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkSummary, deviationBounds } from './readingSummary'

const exact = (value: number) => [value, value] as const

describe('the standard deviation that readings can have', () => {
  /** Least with the other n − 2 alike, greatest with them at the ends and one left over; checked against 4,000 random samples each for n up to 10. */
  it.each([
    [5, 8, 12, 10, 1.414213562, 2],
    [10, 0.98, 1.04, 1, 0.01509230856, 0.02828427125],
    [2, 3, 5, 4, 1.414213562, 1.414213562],
    [50, 24.95, 25.05, 25.01, 0.01030982624, 0.04948716593],
    [4, 0, 1, 0.25, 0.5, 0.5],
  ])('n %i from %d to %d with mean %d: %d to %d', (count, low, high, mean, least, most) => {
    const bounds = deviationBounds(count, { mean: exact(mean), smallest: exact(low), largest: exact(high) })
    expect(bounds.least).toBeCloseTo(least, 8)
    expect(bounds.most).toBeCloseTo(most, 8)
  })

  it('lies within the bounds for whatever readings, as they are and rounded to any number of places', () => {
    const readings = fc.array(fc.integer({ min: -4000, max: 4000 }), { minLength: 2, maxLength: 12 })
    fc.assert(
      fc.property(readings, fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 3 }), (given, places, measured) => {
        const values = given.map((value) => value / 1000)
        const mean = values.reduce((sum, value) => sum + value, 0) / values.length
        const deviation = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (values.length - 1))
        const { least, most } = deviationBounds(values.length, {
          mean: exact(mean),
          smallest: exact(Math.min(...values)),
          largest: exact(Math.max(...values)),
        })
        expect(deviation).toBeGreaterThanOrEqual(least - 1e-9)
        expect(deviation).toBeLessThanOrEqual(most + 1e-9)
        const rounded = {
          count: values.length,
          mean: mean.toFixed(places),
          deviation: deviation.toFixed(measured),
          smallest: Math.min(...values).toFixed(places),
          largest: Math.max(...values).toFixed(places),
          nonconforming: 0,
        }
        // Rounded to nothing, two readings may look like one value; and a plain 0 is taken at its word.
        const isPlain = rounded.deviation === '0'
        if (Number(rounded.smallest) <= Number(rounded.largest) && !isPlain) expect(() => checkSummary(rounded)).not.toThrow()
      }),
    )
  })

  it('is refused outside of them, with the bounds', () => {
    const told = (deviation: string) => () => checkSummary({ count: 7, smallest: '5.2', largest: '5.9', mean: '5.5', deviation, nonconforming: 0 })
    for (const impossible of ['0', '0.0', '0.7', '0.5']) expect(told(impossible)).toThrow(/have one from 0\.\d+ to 0\.\d+/)
    for (const possible of ['0.2', '0.3', '0.25']) expect(told(possible)).not.toThrow()
  })
})
