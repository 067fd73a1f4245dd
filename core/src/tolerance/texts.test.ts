import { describe, expect, it } from 'vitest'
import {
  checkSummary,
  fitOf,
  formatDecimal,
  parseTolerance,
  readAnswer,
  roundToStep,
  timesIn100,
  standardTolerance,
  toleranceByFormula,
  toleranceClass,
  type AskedLine,
} from '../index'

const limits = (text: string) => {
  const { nominal, lower, upper, unit } = parseTolerance(text)
  return [nominal, lower, upper, unit]
}
const code = (name: string) => expect.objectContaining({ code: name }) as Error

describe('a tolerance as it stands on a drawing', () => {
  it.each([
    ['10 0/-0.2', ['10', '9.8', '10', null]],
    ['10 0 -0.2', ['10', '9.8', '10', null]],
    ['10 0/+0.2', ['10', '10', '10.2', null]],
    ['1..2', [null, '1', '2', null]],
    ['20 min', [null, '20', null, null]],
    ['20 max', [null, null, '20', null]],
    ['5 ± 1 min', ['5', '4', '6', 'min']],
    ['from 5 to 6', [null, '5', '6', null]],
    ['∅25 H7', ['25', '25', '25.021', null]],
    ['25 mm ± 0.1 mm', ['25', '24.9', '25.1', 'mm']],
    ['25mm±0.1', ['25', '24.9', '25.1', 'mm']],
    ['90° ± 1°', ['90', '89', '91', '°']],
    ['8 ± 2 μm', ['8', '6', '10', 'µm']],
    ['25 H01', ['25', '25', '25.0006', null]],
    ['25 H0', ['25', '25', '25.001', null]],
  ])('is read: %s', (text, expected) => expect(limits(text)).toEqual(expected))

  it.each(['1 H7 in', '1e3', '25 mm ± 0.1 in', '25 g01', '10 1/-0.2'])('is refused where it could mean something else: %s', (text) => {
    expect(() => parseTolerance(text)).toThrow(/tolerance|fit|Write|Grades/)
  })
})

describe('a fit', () => {
  it('has tolerances that the formula gives, up to the rounding of the table', () => {
    const away = (size: number, grade: number) => Math.abs(toleranceByFormula(size, grade) / standardTolerance(size, grade) - 1)
    for (const grade of [6, 7, 9, 11, 14]) {
      for (const size of [25, 100, 300, 500]) expect(away(size, grade)).toBeLessThan(0.05)
      // Up to 10 mm the table is rounded to few figures: 8.67 stands as 10.
      for (const size of [2, 8]) expect(away(size, grade)).toBeLessThan(0.14)
    }
    expect(toleranceByFormula(25, 7)).toBeCloseTo(20.93, 1)
    expect(() => toleranceByFormula(501, 7)).toThrow(code('fit_unknown'))
  })

  it('knows its hole from its shaft', () => {
    expect(() => fitOf('25', 'g6', 'H7')).toThrow(code('fit_unknown'))
    expect(fitOf('25', 'H7', 'g6').kind).toBe('clearance')
    // IT01 of 18 to 30 mm, ISO 286-1, from memory.
    expect(toleranceClass(25, 'h01')).toEqual({ upperUm: 0, lowerUm: -0.6 })
  })
})

describe('rounding', () => {
  it('has no negative nothing, and rounds ties away from zero where that is asked for', () => {
    expect(formatDecimal('-0.04', 1)).toBe('0.0')
    expect([formatDecimal('0.25', 1), formatDecimal('0.25', 1, 'halfUp'), formatDecimal('-0.25', 1, 'halfUp')]).toEqual(['0.2', '0.3', '-0.3'])
    expect([roundToStep('0.125', '0.05'), roundToStep('0.125', '0.05', 'halfUp')]).toEqual(['0.10', '0.15'])
    expect(() => roundToStep('abc', '0.1')).toThrow(code('not_a_number'))
  })

  it('never turns near certainty into certainty', () => {
    expect([timesIn100(0.995), timesIn100(1), timesIn100(0.99)]).toEqual(['more than 99 times in 100', '100 times in 100', '99 times in 100'])
  })
})

describe('a summary', () => {
  const summary = { count: 20, mean: '12.5', deviation: '0.02', smallest: '12.45', largest: '12.55', nonconforming: 0 }
  it('has no negative spread, and none of one piece', () => {
    expect(() => checkSummary({ ...summary, deviation: '-0.02' })).toThrow(code('summary_impossible'))
    expect(() => checkSummary({ count: 1, mean: '1', deviation: '0.1', smallest: '1', largest: '1', nonconforming: 0 })).toThrow(
      code('summary_impossible'),
    )
  })

  const line = (change: object = {}): AskedLine =>
    ({
      name: 'Bar',
      kind: 'measured',
      unit: 'mm',
      resolution: '0.01',
      nominal: null,
      lower: '12.46',
      upper: '12.54',
      band: null,
      rounding: null,
      recording: 'summary',
      answers: [],
      faultCodes: [],
      noteType: null,
      ...change,
    }) as AskedLine
  const read = (min: string, max: string, x: number, change: object = {}) =>
    readAnswer(line(change), `n 20, mean 12.5, s 0.03, min ${min}, max ${max}, x ${x}`)

  it('counts each extreme that is outside, and no extreme that conforms', () => {
    expect(() => read('12.45', '12.55', 1)).toThrow(/2 to 20 can be nonconforming/)
    expect(() => read('12.45', '12.54', 20)).toThrow(/1 to 19/)
    expect(read('12.45', '12.55', 2).mark).toBe('nonconforming')
    expect(read('12.46', '12.54', 0).mark).toBe('conforming')
  })

  it('can report marginal extremes where the guard band counts as nonconforming', () => {
    const band = { side: 'inside', width: { kind: 'amount', amount: '0.01' }, countsAsConforming: false }
    expect(read('12.46', '12.53', 1, { band }).mark).toBe('nonconforming')
  })
})
