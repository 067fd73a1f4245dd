import Big from 'big.js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import rounding from '../../testdata/rounding.json'
import { addDecimal, compareDecimal, decimalPlaces, formatDecimal, parseDecimal, subtractDecimal } from './decimal'

const cases = rounding as unknown as {
  inputs: Record<string, string> & { x: string; unit: string }
  expected: Record<string, unknown>
  source: string
}[]

describe('a typed number', () => {
  it('may have a decimal point or a decimal comma', () => {
    expect(parseDecimal('12,5')).toBe('12.5')
    expect(parseDecimal(' 12.50 ')).toBe('12.50')
    expect(parseDecimal('.5')).toBe('0.5')
    expect(parseDecimal('-007')).toBe('-7')
    expect(parseDecimal('-0.0')).toBe('0.0')
  })

  it.each(['1e400', 'NaN', 'Infinity', '12.5 mm', '1,000.5', '1 000', '', '--3', '0x10', '٣'])('is refused when it is %j', (text) => {
    expect(() => parseDecimal(text)).toThrow(expect.objectContaining({ code: 'not_a_number' }))
  })

  it('is refused when it is megabytes long, without repeating it', () => {
    const error = captured(() => parseDecimal('1'.repeat(3_000_000)))
    expect(error).toMatchObject({ code: 'number_too_long', facts: { length: 3_000_000 } })
    expect((error as Error).message.length).toBeLessThan(200)
  })
})

function captured(run: () => unknown): unknown {
  try {
    return run()
  } catch (error) {
    return error
  }
}

describe('decimal arithmetic', () => {
  it('gives 0.3 + 0.05 as 0.35, and not the nearest double', () => {
    expect(addDecimal('0.3', '0.05')).toBe('0.35')
    expect(subtractDecimal('0.3', '0.05')).toBe('0.25')
    expect(0.1 + 0.2 === 0.3).toBe(false)
    expect(compareDecimal(addDecimal('0.1', '0.2'), '0.3')).toBe(0)
  })

  it('counts the decimals that carry a digit', () => {
    expect(['8', '0.350', '0.001', '1e0'].slice(0, 3).map(decimalPlaces)).toEqual([0, 2, 3])
  })

  it('agrees with the check values for rounding to a decimal place, ties to even', () => {
    const rounded = cases.filter((entry) => entry.inputs.kind === 'round' && /^(1|0\.0*1)$/.test(entry.inputs.unit))
    expect(rounded.length).toBeGreaterThan(5)
    for (const { inputs, expected, source } of rounded) {
      const places = inputs.unit === '1' ? 0 : inputs.unit.length - 2
      expect(Number(formatDecimal(inputs.x, places)), source).toBe(Number(expected.half_even))
    }
  })

  it('compares like a general decimal library, for any two decimals', () => {
    const decimal = fc
      .tuple(fc.integer({ min: -2000, max: 2000 }), fc.integer({ min: 0, max: 4 }))
      .map(([digits, places]) => (digits / 10 ** places).toFixed(places))
    fc.assert(fc.property(decimal, decimal, (a, b) => compareDecimal(a, b) === new Big(a).cmp(b)))
    expect(compareDecimal('-0.0', '0')).toBe(0)
    expect(compareDecimal('99999999999999999999.1', '99999999999999999999.09')).toBe(1)
  })

  it('brings back what was added, for any two decimals', () => {
    const decimal = fc
      .tuple(fc.integer({ min: -999_999, max: 999_999 }), fc.integer({ min: 0, max: 5 }))
      .map(([digits, places]) => formatDecimal((digits / 10 ** places).toFixed(places), places))
    fc.assert(fc.property(decimal, decimal, (a, b) => compareDecimal(subtractDecimal(addDecimal(a, b), b), a) === 0))
  })
})
