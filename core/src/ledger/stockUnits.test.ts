import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkQuantity } from './movement'
import { quantityIn, quantityOfSamplingUnits, quantityText, quantityWords, samplingUnitsIn, stockUnitOf, stockUnits } from './stockUnits'

const code = (expected: string) => expect.objectContaining({ code: expected })

describe('quantities', () => {
  it('are told in the unit of the part, with its decimals', () => {
    expect([quantityWords(1, 'piece'), quantityWords(240, 'piece'), quantityWords(2, 'bar'), quantityWords(2, 'kg')]).toEqual([
      '1 piece',
      '240 pieces',
      '2 bars',
      '2 kg',
    ])
    expect([quantityWords(25_050, '0.01 kg'), quantityWords(1, '0.001 L'), quantityWords(5, '0.1 m²')]).toEqual(['250.50 kg', '0.001 L', '0.5 m²'])
    expect(stockUnitOf('0.001 m²')).toEqual({ symbol: 'm²', places: 3 })
  })

  it('are read as typed, by point or comma, and refused where they are finer than the step', () => {
    expect([quantityIn('250,5', '0.01 kg'), quantityIn('250.50', '0.01 kg'), quantityIn('0.29', '0.01 kg'), quantityIn('12.0', 'piece')]).toEqual([
      25_050, 25_050, 29, 12,
    ])
    expect(() => quantityIn('0.005', '0.01 kg')).toThrow(/steps of 0.01 kg/)
    expect(() => quantityIn('1.5', 'piece')).toThrow(/whole pieces/)
    expect(() => quantityIn('many', 'kg')).toThrow(code('not_a_number'))
  })

  it('come back as they were written, whatever the unit, up to the largest lot', () => {
    const any = fc.record({ unit: fc.constantFrom(...stockUnits), quantity: fc.integer({ min: 0, max: 1_000_000_000 }) })
    fc.assert(fc.property(any, ({ unit, quantity }) => quantityIn(quantityText(quantity, unit), unit) === quantity))
  })

  it('are sampled by whole units, one that is begun among them', () => {
    expect([samplingUnitsIn(25_050, '0.01 kg'), samplingUnitsIn(1, '0.001 L'), samplingUnitsIn(240, 'piece')]).toEqual([251, 1, 240])
    expect(quantityOfSamplingUnits(13, '0.01 kg')).toBe(1300)
    const any = fc.record({ unit: fc.constantFrom(...stockUnits), quantity: fc.integer({ min: 1, max: 1_000_000_000 }) })
    fc.assert(
      fc.property(any, ({ unit, quantity }) => {
        const units = samplingUnitsIn(quantity, unit)
        expect(quantityOfSamplingUnits(units, unit)).toBeGreaterThanOrEqual(quantity)
        expect(quantityOfSamplingUnits(units - 1, unit)).toBeLessThan(quantity)
      }),
    )
  })

  it('that are no whole step are refused in words of the unit', () => {
    expect(() => checkQuantity(250.5, '0.01 kg')).toThrow(
      'Received a quantity of 2.505 kg. It is at least 0.01 kg, in steps of that, and at most 10000000 kg.',
    )
    expect(() => checkQuantity(1.5)).toThrow(/whole number/)
  })
})
