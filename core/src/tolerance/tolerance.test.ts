import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import rounding from '../../testdata/rounding.json'
import { judgeReading, parseReading } from './judgeReading'
import { checkLimits } from './limits'
import { parseTolerance } from './parseTolerance'
import { stripScale } from './stripScale'
import { unitOf } from './units'

const cases = rounding as unknown as {
  inputs: Record<string, string> & { x: string; unit: string }
  expected: Record<string, unknown>
  source: string
}[]

const code = (expected: string) => expect.objectContaining({ code: expected })

describe('a tolerance as it is typed', () => {
  it.each([
    ['0.3 ± 0.05', '0.3', '0.25', '0.35'],
    ['0,3 +- 0,05', '0.3', '0.25', '0.35'],
    ['0.3 +/- 0.05', '0.3', '0.25', '0.35'],
    ['8 +0.02/-0.01', '8', '7.99', '8.02'],
    ['8 +0.02 0', '8', '8', '8.02'],
    ['-5 ± 1', '-5', '-6', '-4'],
    ['0.25 to 0.35', null, '0.25', '0.35'],
    ['0.25…0.35', null, '0.25', '0.35'],
    ['-3 to −1', null, '-3', '-1'],
    ['≥ 145', null, '145', null],
    ['min 145', null, '145', null],
    ['<= 0.8', null, null, '0.8'],
    ['At most 0,8', null, null, '0.8'],
  ])('%s', (text, nominal, lower, upper) => {
    expect(parseTolerance(text)).toMatchObject({ nominal, lower, upper })
  })

  it.each(['', '0.3', 'about 5', '5 ± ', '1e400 ± 1', '3 < 4'])('is refused when it is %j', (text) => {
    expect(() => parseTolerance(text)).toThrow(code('tolerance_not_understood'))
  })
})

describe('limits', () => {
  const limits = (nominal: string | null, lower: string | null, upper: string | null) => ({ nominal, lower, upper })

  it('are refused when they contradict each other', () => {
    expect(() => checkLimits(limits(null, '5', '4'), '0.1')).toThrow(code('limits_reversed'))
    expect(() => checkLimits(limits('6', '4', '5'), '0.1')).toThrow(code('nominal_outside_limits'))
    expect(() => checkLimits(limits('3', '4', null), '0.1')).toThrow(/below the lower limit 4/)
    expect(() => checkLimits(limits('4', null, null), '0.1')).toThrow(code('limits_missing'))
    expect(() => checkLimits(limits(null, '4', '5'), '0')).toThrow(code('resolution_not_positive'))
    expect(() => checkLimits(limits(null, '0.255', '0.35'), '0.01')).toThrow(code('too_many_decimals'))
  })

  it('may coincide, be one-sided, and have the nominal on a limit', () => {
    expect(() => checkLimits(limits('4', '4', '4'), '1')).not.toThrow()
    expect(() => checkLimits(limits('8', '8', '8.02'), '0.01')).not.toThrow()
    expect(() => checkLimits(limits(null, null, '0.8'), '0.1')).not.toThrow()
  })
})

describe('a reading', () => {
  it('on a limit conforms: 0.3 ± 0.05 accepts 0.35 and 0.25', () => {
    const limits = parseTolerance('0.3 ± 0.05')
    expect(['0.25', '0.35', '0.24', '0.36'].map((value) => judgeReading(value, limits))).toEqual([
      'conforming',
      'conforming',
      'nonconforming',
      'nonconforming',
    ])
  })

  it('is judged like the check values of the absolute method', () => {
    const conformance = cases.filter((entry) => entry.inputs.kind === 'conformance')
    expect(conformance.length).toBeGreaterThan(3)
    for (const { inputs, expected, source } of conformance) {
      const mark = judgeReading(inputs.x, { nominal: null, lower: inputs.lower ?? null, upper: inputs.upper ?? null })
      expect(mark === 'conforming', source).toBe(expected.absolute_conforms)
    }
  })

  it('takes the decimals of the resolution, and is refused when it is finer', () => {
    expect(parseReading('8', '0.01')).toBe('8.00')
    expect(parseReading('12,5', '0.1')).toBe('12.5')
    expect(() => parseReading('0.354', '0.01')).toThrow(code('too_many_decimals'))
    expect(() => parseReading('12.5 mm', '0.1')).toThrow(code('not_a_number'))
  })

  it('never turns conforming by moving away from the limits', () => {
    fc.assert(
      fc.property(fc.integer({ min: -500, max: 500 }), fc.integer({ min: 0, max: 100 }), (value, further) => {
        const limits = { nominal: null, lower: '-1.00', upper: '1.00' }
        const near = judgeReading((value / 100).toFixed(2), limits)
        const far = judgeReading(((value + Math.sign(value) * further) / 100).toFixed(2), limits)
        return near === 'conforming' || far === 'nonconforming'
      }),
    )
  })
})

describe('a unit', () => {
  it('that does not exist is refused, with the one that was probably meant', () => {
    expect(unitOf('µm').quantity).toBe('length')
    expect(() => unitOf('MM')).toThrow(/Did you mean mm/)
    expect(() => unitOf('um')).toThrow(/Did you mean µm/)
    expect(() => unitOf('furlong')).toThrow(code('unit_unknown'))
  })
})

describe('a tolerance strip', () => {
  it('keeps the order of limits, nominal and values, inside its ends', () => {
    const strip = stripScale(parseTolerance('0.3 ± 0.05'))
    expect(strip.lower).toBeLessThan(strip.nominal ?? 0)
    expect(strip.nominal).toBeLessThan(strip.upper ?? 0)
    expect([strip.place(-99), strip.place(99)]).toEqual([0, 1])
  })

  it('leaves the open side open', () => {
    const strip = stripScale(parseTolerance('≥ 145'))
    expect(strip.upper).toBeNull()
    expect(strip.place(160)).toBeGreaterThan(strip.lower ?? 1)
  })
})
