import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import fits from '../../testdata/limits-fits.json'
import rounding from '../../testdata/rounding.json'
import { judgeReading } from './judgeReading'
import { fitOf, limitsOfClass, standardTolerance, toleranceClass } from './limitsAndFits'
import { bandEdges, bandWords, type MarginalBand } from './marginalBand'
import { parseTolerance } from './parseTolerance'
import { checkSummary, type ReadingSummary } from './readingSummary'
import { roundToStep } from './rounding'
import { stripScale } from './stripScale'
import { convertUnit, unitsLike } from './units'

const code = (expected: string) => expect.objectContaining({ code: expected })
const thrown = (run: () => unknown) => {
  try {
    run()
  } catch (error) {
    return error as Error & { code: string; facts: Record<string, unknown> }
  }
  throw new Error('nothing was refused')
}

describe('limits and fits of ISO 286-1', () => {
  const fitsOf = (kind: string) => fits.filter((entry) => entry.inputs.kind === kind)
  type Values = Record<string, number>

  it('have the tolerance grades of the check values', () => {
    expect(fitsOf('it.table').length).toBeGreaterThan(5)
    for (const { inputs, expected, source } of fitsOf('it.table')) {
      for (const [name, value] of Object.entries(expected as unknown as Values)) {
        expect(standardTolerance((inputs as unknown as Values)['step_up_to'] as number, Number(name.slice(2))), `${name}, ${source}`).toBe(value)
      }
    }
  })

  it('stay within a tenth or 2 µm of the formulas from IT5 to IT12', () => {
    for (const { inputs, expected } of fitsOf('it.formula')) {
      for (const [name, value] of Object.entries(expected as unknown as Values)) {
        if (!name.startsWith('IT')) continue
        const table = standardTolerance((inputs as unknown as Values)['step_up_to'] as number, Number(name.slice(2)))
        expect(Math.abs(table - value), name).toBeLessThanOrEqual(Math.max(2, 0.1 * value))
      }
    }
  })

  it('have the fundamental deviations of the check values', () => {
    for (const { inputs, expected, source } of fitsOf('fd.table')) {
      const size = (inputs as unknown as Values)['step_up_to'] as number
      for (const [name, value] of Object.entries(expected as unknown as Values)) {
        const [letter = '', which = ''] = name.split('_')
        const { upperUm, lowerUm } = toleranceClass(size, `${letter}7`)
        expect(which.toLowerCase() === 'es' ? upperUm : lowerUm, `${name} at ${size} mm, ${source}`).toBe(value === 0 ? 0 : value)
      }
    }
  })

  it.each(fitsOf('fit').map((entry) => [entry.what.slice(0, 20), entry] as const))(
    'give the check values of %s',
    (_name, { inputs, expected, source }) => {
      const { nominal, hole, shaft } = inputs as unknown as { nominal: number; hole: string; shaft: string }
      const wanted = expected as unknown as Values & { fit: string }
      const fit = fitOf(String(nominal), hole, shaft)
      expect(fit, source).toMatchObject({
        hole: { upperUm: wanted['hole_upper_um'], lowerUm: wanted['hole_lower_um'] },
        shaft: { upperUm: wanted['shaft_upper_um'], lowerUm: wanted['shaft_lower_um'] },
        maxClearanceUm: wanted['max_clearance_um'],
        minClearanceUm: wanted['min_clearance_um'],
        kind: wanted.fit,
      })
      const limits = limitsOfClass(String(nominal), hole)
      expect([Number(limits.upper), Number(limits.lower)]).toEqual([wanted['hole_max_mm'], wanted['hole_min_mm']])
    },
  )

  it('know the classes that workshops use most (ISO 286-2, from memory)', () => {
    const seen = (size: number, symbol: string) => Object.values(toleranceClass(size, symbol))
    expect(seen(50, 'K7')).toEqual([7, -18])
    expect(seen(50, 'N7')).toEqual([-8, -33])
    expect(seen(50, 'P7')).toEqual([-17, -42])
    expect(seen(20, 'M6')).toEqual([-4, -17])
    expect(seen(30, 'J7')).toEqual([12, -9])
    expect(seen(40, 'N9')).toEqual([0, -62])
    expect(seen(60, 'd9')).toEqual([-100, -174])
    expect(seen(8, 'js7')).toEqual([7.5, -7.5])
    expect(seen(300, 'M6')).toEqual([-9, -41])
  })

  it('refuse what the tables do not hold', () => {
    for (const [size, symbol] of [
      [501, 'H7'],
      [0, 'H7'],
      [25, 'H19'],
      [25, 'q6'],
      [25, 'Js7'],
      [5, 't6'],
    ] as const) {
      expect(() => toleranceClass(size, symbol), `${size} ${symbol}`).toThrow(code('fit_unknown'))
    }
  })
})

describe('a tolerance typed as drawings state it', () => {
  it.each([
    ['12.5 ±0.05', '12.5', '12.45', '12.55', null],
    ['12.5 +0.1/-0', '12.5', '12.5', '12.6', null],
    ['12,5 -0,1 -0,3', null, '12.2', '12.4', null],
    ['25 H7', '25', '25', '25.021', null],
    ['⌀25g6', null, '24.98', '24.993', null],
    ['≤ 0.8 µm', null, null, '0.8', 'µm'],
    ['0.8 max', null, null, '0.8', null],
    ['min 20 N·m', null, '20', null, 'N·m'],
    ['2.45…2.55 mm', null, '2.45', '2.55', 'mm'],
    ['12.5 ± 0.05 in', '12.5', '12.45', '12.55', 'in'],
  ])('%s', (text, nominal, lower, upper, unit) => {
    expect(parseTolerance(text)).toMatchObject({ nominal, lower, upper, unit })
  })

  it.each([
    ['12.5 ±0.05 furlong', 'furlong', /Not understood/],
    ['12.5 ? 0.05', '? 0.05', /Not understood/],
    ['< 0.8', '< 0.8', /write ≤/],
    ['2.45-2.55', '', /can mean two things/],
    ['25 H7/g6', '/g6', /A fit names two parts/],
    ['8 +0.02', '', /One deviation is missing/],
    ['8 +0.02 0.01', '0.01', /needs its sign/],
    ['12.5', '', /A single number has no limits/],
    ['', '', /It is empty/],
  ])('%s is refused, and the symbol pointed at', (text, symbol, words) => {
    const error = thrown(() => parseTolerance(text))
    expect(error).toMatchObject({ code: 'tolerance_not_understood', facts: { symbol } })
    expect(error.message).toMatch(words)
  })

  it('says which class is not in the tables', () => {
    expect(() => parseTolerance('600 H7')).toThrow(code('fit_unknown'))
  })
})

describe('a unit of the same quantity', () => {
  it('converts like the check values', () => {
    const pairs: Record<string, readonly [string, string]> = {
      inch_mm: ['in', 'mm'],
      mm_inch: ['mm', 'in'],
      lbf_N: ['lbf', 'N'],
      psi_MPa: ['psi', 'MPa'],
      degF_degC: ['°F', '°C'],
      MPa_psi: ['MPa', 'psi'],
      oz_g: ['oz', 'g'],
    }
    let checked = 0
    for (const { inputs, expected, source } of rounding.filter((entry) => entry.inputs.kind === 'convert')) {
      const { conversion, value } = inputs as unknown as { conversion: string; value: string }
      const pair = pairs[conversion]
      if (!pair) continue
      checked += 1
      const { result } = expected as unknown as { result: number }
      expect(Math.abs(Number(convertUnit(value, ...pair)) - result), `${conversion} ${source}`).toBeLessThanOrEqual(
        Math.max(1e-9 * Math.abs(result), 1e-12),
      )
    }
    expect(checked).toBeGreaterThan(4)
    expect(convertUnit('1', 'in', 'mm')).toBe('25.4')
    expect(convertUnit('0.4995', 'in', 'mm', 2)).toBe('12.69')
  })

  it('is offered, and one of another quantity refused', () => {
    expect(unitsLike('mm').map((unit) => unit.symbol)).toContain('in')
    expect(unitsLike('HRC').map((unit) => unit.symbol)).toEqual(['HRC'])
    expect(() => convertUnit('1', 'mm', 'N')).toThrow(code('unit_mismatch'))
    expect(() => convertUnit('1', 'HV', 'HRC')).toThrow(code('unit_mismatch'))
  })
})

describe('rounding before comparison (ASTM E29)', () => {
  it('agrees with the check values, ties to the even multiple', () => {
    const cases = rounding.filter((entry) => entry.inputs.kind === 'round') as unknown as {
      inputs: { x: string; unit: string }
      expected: { half_even: string }
      source: string
    }[]
    for (const { inputs, expected, source } of cases)
      expect(Number(roundToStep(inputs.x, inputs.unit)), `${inputs.x} to ${inputs.unit}, ${source}`).toBe(Number(expected.half_even))
    expect(cases.length).toBeGreaterThan(15)
  })

  it('decides as the check values of the rounding method do', () => {
    const cases = rounding.filter((entry) => entry.inputs.kind === 'conformance') as unknown as {
      inputs: { x: string; unit: string; lower: string | null; upper: string | null }
      expected: { rounding_conforms: boolean }
    }[]
    for (const { inputs, expected } of cases) {
      const mark = judgeReading(inputs.x, { nominal: null, lower: inputs.lower, upper: inputs.upper, rounding: inputs.unit })
      expect(mark === 'conforming', `${inputs.x}`).toBe(expected.rounding_conforms)
    }
  })
})

describe('a marginal band', () => {
  const limits = parseTolerance('0.3 ± 0.05')
  const inside: MarginalBand = { side: 'inside', width: { kind: 'amount', amount: '0.01' }, countsAsConforming: false }
  const outside: MarginalBand = { side: 'outside', width: { kind: 'percentage', percent: '10', base: 'width' }, countsAsConforming: true }

  it('inside the limits guards them (ISO 14253-1): its edges still conform, the limits are marginal', () => {
    expect(bandEdges(limits, inside)).toEqual({ innerLower: '0.26', innerUpper: '0.34', outerLower: '0.25', outerUpper: '0.35' })
    const marks = ['0.26', '0.34', '0.35', '0.36'].map((value) => judgeReading(value, { ...limits, band: inside }))
    expect(marks).toEqual(['conforming', 'conforming', 'marginal', 'nonconforming'])
  })

  it('outside them is a stated excess, of the nominal, the limit or the width', () => {
    const edges = (base: 'nominal' | 'limit' | 'width') => bandEdges(limits, { ...outside, width: { kind: 'percentage', percent: '10', base } })
    expect(edges('width')).toMatchObject({ outerLower: '0.24', outerUpper: '0.36' })
    expect(edges('nominal')).toMatchObject({ outerLower: '0.22', outerUpper: '0.38' })
    expect(edges('limit')).toMatchObject({ outerLower: '0.225', outerUpper: '0.385' })
    expect(judgeReading('0.36', { ...limits, band: outside })).toBe('marginal')
  })

  it('is told in full', () => {
    expect(bandWords(limits, outside, 'mm')).toBe(
      'Conforms from 0.25 to 0.35 mm, edges included; marginal (△) beyond that as far as 0.24 and 0.36 mm, counted as conforming; nonconforming beyond.',
    )
    expect(bandWords(parseTolerance('≥ 145'), null, 'HBW')).toBe('Conforms 145 or more HBW, limits included; nonconforming beyond.')
  })

  it('is refused when it leaves nothing, is nothing, or lacks its base', () => {
    expect(() => bandEdges(limits, { ...inside, width: { kind: 'amount', amount: '0.06' } })).toThrow(code('band_invalid'))
    expect(() => bandEdges(limits, { ...inside, width: { kind: 'amount', amount: '0' } })).toThrow(code('band_invalid'))
    expect(() => bandEdges(parseTolerance('≥ 145'), outside)).toThrow(/needs both limits/)
  })

  it('is drawn on the strip between its edges', () => {
    const scale = stripScale({ ...limits, band: outside })
    expect(scale.bands).toHaveLength(2)
    for (const { from, to } of scale.bands) expect(to).toBeGreaterThan(from)
  })
})

describe('a summary of readings', () => {
  const summarise = (values: readonly number[]): ReadingSummary => {
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length
    const squares = values.reduce((sum, value) => sum + (value - mean) ** 2, 0)
    return {
      count: values.length,
      mean: mean.toFixed(6),
      deviation: values.length === 1 ? null : Math.sqrt(squares / (values.length - 1)).toFixed(6),
      smallest: Math.min(...values).toFixed(2),
      largest: Math.max(...values).toFixed(2),
      nonconforming: 0,
    }
  }

  it('of any real readings is possible', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -500, max: 500 }), { minLength: 1, maxLength: 12 }),
        (cents) => checkSummary(summarise(cents.map((cent) => cent / 100))) === undefined,
      ),
    )
  })

  it.each([
    [{ mean: '3.50' }, 'mean', /lies from/],
    [{ mean: '1.05' }, 'mean', /lies from/],
    [{ deviation: '0.01' }, 'deviation', /from .* to/],
    [{ deviation: '2.00' }, 'deviation', /from .* to/],
    [{ smallest: '4.00' }, 'smallest', /greater than/],
    [{ nonconforming: 6 }, 'nonconforming', /6 nonconforming of 5/],
    [{ deviation: null }, 'deviation', /Enter it/],
  ])('that cannot be is refused: %j', (change, field, words) => {
    const error = thrown(() =>
      checkSummary({ count: 5, mean: '2.00', deviation: '0.80', smallest: '1.00', largest: '3.00', nonconforming: 0, ...change }),
    )
    expect(error).toMatchObject({ code: 'summary_impossible', facts: { field } })
    expect(error.message).toMatch(words)
  })
})
