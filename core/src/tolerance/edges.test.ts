import { describe, expect, it } from 'vitest'
import { acceptsText, parseSummary, readAnswer, type AskedLine } from './answers'
import { gateLine } from './gateLine'
import { checkSummary, type ReadingSummary } from './readingSummary'
import { stripScale } from './stripScale'
import { convertUnit, parseFactor, unitOf, unitsLike } from './units'
import { usualUnits } from './usualUnits'

const code = (expected: string, facts: object = {}) =>
  expect.objectContaining({ code: expected, ...(Object.keys(facts).length > 0 ? { facts: expect.objectContaining(facts) as object } : {}) })
const line: AskedLine & { acceptableState: string | null; countUnit: string | null } = { ...gateLine, acceptableState: null, countUnit: null }
const asked = (change: Partial<typeof line>) => ({ ...line, ...change })

describe('what a line accepts, in words', () => {
  it.each([
    [asked({}), '12.45 to 12.55 mm, nominal 12.5'],
    [asked({ lower: null, nominal: null }), 'at most 12.55 mm'],
    [asked({ upper: null, nominal: null }), 'at least 12.45 mm'],
    [asked({ kind: 'judged', acceptableState: 'no burr' }), 'acceptable: no burr'],
    [asked({ kind: 'counted' }), 'counted: nonconformities'],
    [asked({ kind: 'counted', countUnit: 'pores', faultCodes: ['PORE', 'SHUT'] }), 'counted: pores (PORE, SHUT)'],
    [asked({ kind: 'noted' }), 'noted: words'],
    [asked({ kind: 'noted', noteType: 'yesNo' }), 'noted: yes or no'],
  ])('%#: is said so that somebody can inspect by it', (limits, words) => {
    expect(acceptsText(limits)).toBe(words)
  })

  it('names the answers of a list, and which of them do not conform', () => {
    const answers = [
      { code: 'E', words: 'even', verdict: 'conforming' as const },
      { code: 'M', words: 'matt', verdict: 'nonconforming' as const },
    ]
    expect(acceptsText(asked({ kind: 'coded', answers }))).toBe('E even, M matt (does not conform)')
    expect(() => readAnswer(asked({ kind: 'coded', answers }), 'Z')).toThrow(/E \(even\), M \(matt\)/)
  })
})

describe('a noted fact', () => {
  const noted = (noteType: AskedLine['noteType'], text: string) => readAnswer(asked({ kind: 'noted', noteType }), text).value

  it('that is a day has to be one of the calendar', () => {
    expect(['2024-02-29', '2000-02-29', '2026-12-31'].map((day) => noted('date', day))).toEqual(['2024-02-29', '2000-02-29', '2026-12-31'])
    for (const day of ['1900-02-29', '2026-02-29', '2026-04-31', '2026-13-01', '2026-00-10', '2026-01-00', '26-01-01', ' 2026-1-1']) {
      expect(() => noted('date', day), day).toThrow(code('answer_invalid'))
    }
  })

  it('that is a yes or no, a number, some words or a document is kept in its form', () => {
    expect([noted('yesNo', ' y '), noted('yesNo', 'N'), noted('number', '1,50'), noted('text', ' as agreed '), noted(null, 'x')]).toEqual([
      'Y',
      'N',
      '1.50',
      'as agreed',
      'x',
    ])
    for (const [type, text] of [
      ['yesNo', 'yes'],
      ['text', '  '],
      ['document', 'report.pdf'],
    ] as const)
      expect(() => noted(type, text)).toThrow(code('answer_invalid'))
  })
})

describe('counted nonconformities', () => {
  const counted = (text: string) => readAnswer(asked({ kind: 'counted', faultCodes: ['PORE', 'SHUT'] }), text)

  it('are a number, or numbers by fault code; none of either conforms', () => {
    expect([counted('0'), counted('PORE 0, SHUT 0')].map(({ value, mark }) => [value, mark])).toEqual([
      ['0', 'conforming'],
      ['0', 'conforming'],
    ])
    expect(counted(' PORE 2,SHUT 0 , SHUT 1')).toMatchObject({ value: 'PORE 2, SHUT 1', mark: 'nonconforming' })
    expect(counted('7')).toMatchObject({ value: '7', mark: 'nonconforming' })
    for (const text of ['PORE', 'GAP 1', '-1', '1234567', 'PORE 1; SHUT 2', '']) expect(() => counted(text), text).toThrow(/PORE 2/)
    expect(() => readAnswer(asked({ kind: 'counted' }), 'x')).toThrow(/a whole number of nonconformities\./)
  })
})

describe('a summary of readings', () => {
  const summary = (change: Partial<ReadingSummary> = {}): ReadingSummary => ({
    count: 10,
    mean: '5.00',
    deviation: '0.10',
    smallest: '4.80',
    largest: '5.20',
    nonconforming: 0,
    ...change,
  })

  it('that could be is taken, up to what rounding has taken from its figures', () => {
    for (const could of [
      summary(),
      summary({ count: 1, deviation: null, mean: '5', smallest: '5', largest: '5' }),
      summary({ count: 2, deviation: '0.28' }),
    ])
      expect(() => checkSummary(could)).not.toThrow()
  })

  it.each([
    [summary({ count: 0 }), 'quantity_invalid', 'count'],
    [summary({ count: 2.5 }), 'quantity_invalid', 'count'],
    [summary({ nonconforming: 11 }), 'summary_impossible', 'nonconforming'],
    [summary({ nonconforming: -1 }), 'summary_impossible', 'nonconforming'],
    [summary({ smallest: '5.30' }), 'summary_impossible', 'smallest'],
    [summary({ mean: '4.81' }), 'summary_impossible', 'mean'],
    [summary({ mean: '5.19' }), 'summary_impossible', 'mean'],
    [summary({ deviation: '-0.1' }), 'summary_impossible', 'deviation'],
    [summary({ deviation: null }), 'summary_impossible', 'deviation'],
    [summary({ count: 1 }), 'summary_impossible', 'deviation'],
    [summary({ count: 1, deviation: null }), 'summary_impossible', 'largest'],
    // Two of ten at the ends and the rest in the middle: at least 0.094; half at each end: at most 0.211.
    [summary({ deviation: '0.04' }), 'summary_impossible', 'deviation'],
    [summary({ deviation: '0.26' }), 'summary_impossible', 'deviation'],
  ])('%#: that could not be is refused by the figure that is wrong', (summary, expected, field) => {
    expect(() => checkSummary(summary)).toThrow(code(expected, { field }))
  })

  it('is read back from the text that it is kept as, and says which figure is missing', () => {
    expect(parseSummary('n 3, mean 1.0, min 0.9, max 1.1, x 1')).toEqual({
      count: 3,
      mean: '1.0',
      deviation: null,
      smallest: '0.9',
      largest: '1.1',
      nonconforming: 1,
    })
    expect(() => parseSummary('n 3, mean 1.0, min 0.9, x 1')).toThrow(code('answer_invalid', { field: 'max' }))
  })

  it('has as many nonconforming pieces as its extremes allow', () => {
    const read = (min: string, max: string, x: number) => () =>
      readAnswer(asked({ recording: 'summary' }), `n 10, mean 12.50, s 0.03, min ${min}, max ${max}, x ${x}`)
    expect(read('12.46', '12.54', 0)).not.toThrow()
    expect(read('12.46', '12.54', 1)).toThrow(code('summary_impossible', { least: 0, most: 0 }))
    expect(read('12.46', '12.56', 0)).toThrow(code('summary_impossible', { least: 1, most: 9 }))
    expect(read('12.44', '12.56', 1)).toThrow(code('summary_impossible', { least: 2, most: 10 }))
    expect(read('12.44', '12.56', 2)().mark).toBe('nonconforming')
  })
})

describe('units', () => {
  it.each([
    // Exact by definition: international yard and pound agreement, 1959; the Fahrenheit scale.
    ['1', 'in', 'mm', '25.4'],
    ['1', 'ft', 'in', '12'],
    ['90', '′', '°', '1.5'],
    ['1', 'in²', 'mm²', '645.16'],
    ['2.5', 'L', 'mL', '2500'],
    ['16', 'oz', 'lb', '1'],
    ['1', 'lbf', 'N', '4.44822161526'],
    ['12', 'lbf·in', 'lbf·ft', '1'],
    ['1', 'lbf/in', 'N/mm', '0.175126835246'],
    ['1', 'psi', 'kPa', '6.894757293168'],
    ['212', '°F', '°C', '100'],
    ['0', 'K', '°C', '-273.15'],
    ['1', 'h', 's', '3600'],
    ['5', '‰', '%', '0.5'],
    // NIST SP 811 (2008), appendix B.8, factors printed in bold: exact.
    ['1', 'yd', 'm', '0.9144'],
    ['1', 'mil', 'µm', '25.4'],
    ['1', 'in³', 'cm³', '16.387064'],
    ['1', 'gal', 'L', '3.785411784'],
    ['1', 'kgf', 'N', '9.80665'],
    ['1', 'atm', 'kPa', '101.325'],
    ['760', 'Torr', 'atm', '1'],
    ['1', 'cP', 'mPa·s', '1'],
    ['1', 'cSt', 'mm²/s', '1'],
    ['90', 'km/h', 'm/s', '25'],
    ['1', 'kW·h', 'kJ', '3600'],
    // By the prefixes of the SI: 1 m³/h is 1000 L in 60 min; 1 S/m is 10 mS/cm.
    ['6', 'm³/h', 'L/min', '100'],
    ['1413', 'µS/cm', 'mS/cm', '1.413'],
    ['250', 'ppm', '%', '0.025'],
    ['1', 'rpm', '1/min', '1'],
    ['9000', 'den', 'g/m', '1'],
  ])('%s %s is so many %s', (value, from, to, expected) => {
    expect(convertUnit(value, from, to)).toBe(expected)
  })

  it('are offered with those of the same quantity; hardness converts into nothing', () => {
    expect(unitsLike('in').map(({ symbol }) => symbol)).toEqual(['mm', 'nm', 'µm', 'cm', 'm', 'km', 'in', 'mil', 'ft', 'yd'])
    expect(unitsLike('HRC').map(({ symbol }) => symbol)).toEqual(['HRC'])
    expect(() => convertUnit('60', 'HRC', 'HV')).toThrow(code('unit_mismatch'))
    expect(new Set(usualUnits.map(({ symbol }) => symbol)).size).toBe(usualUnits.length)
  })

  it('every factor is one, each quantity is reckoned in a unit with the factor 1, and what converts comes back', () => {
    const names = new Set(usualUnits.map(({ quantity }) => quantity))
    for (const name of names) {
      const converting = usualUnits.filter(({ quantity, factor }) => quantity === name && factor !== null)
      if (converting.length > 0)
        expect(
          converting.some(({ factor, shift }) => factor === '1' && shift === null),
          name,
        ).toBe(true)
      for (const { symbol, factor } of converting) {
        expect(parseFactor(factor ?? ''), symbol).toBeDefined()
        const first = converting[0]?.symbol ?? ''
        expect(Number(convertUnit(convertUnit('12.5', first, symbol), symbol, first)), `${first} ${symbol}`).toBeCloseTo(12.5, 1)
      }
    }
  })

  it('no symbol ends like a number, or could be taken for one', () => {
    for (const { symbol } of usualUnits) expect(symbol).toMatch(/[^\d.,\s+-]$/)
  })

  it('of a plant convert beside the usual ones; a factor is a number above 0 or a fraction', () => {
    const turn = { symbol: 'turn', name: 'turn', quantity: 'angle', factor: '360', shift: null }
    const known = [...usualUnits, turn]
    expect(convertUnit('0.25', 'turn', '°', null, known)).toBe('90')
    expect(unitsLike('°', known).map(({ symbol }) => symbol)).toContain('turn')
    expect(() => convertUnit('1', 'turn', '°')).toThrow(code('unit_unknown'))
    expect(parseFactor(' 5 / 9')).toEqual({ times: '5', per: '9' })
    for (const wrong of ['', '0', '-2', '5/0', '1/2/3', '1e3', 'x']) expect(() => parseFactor(wrong), wrong).toThrow(code('factor_invalid'))
  })

  it('that differ in spelling only are recognised', () => {
    for (const [typed, near] of [
      ['MM', 'mm'],
      ['um', 'µm'],
      ['inch', 'in'],
      ['Degrees', '°'],
      ['Nm', 'N·m'],
      ['μm', 'µm'],
      ['micron', 'µm'],
    ] as const) {
      expect(() => unitOf(typed), typed).toThrow(code('unit_unknown', { near }))
    }
    expect(() => unitOf('furlong')).toThrow(code('unit_unknown', { near: null }))
  })
})

describe('the tolerance strip', () => {
  it('shows a third of the zone beyond each limit, and keeps what lies further out at its ends', () => {
    const strip = stripScale({ lower: '10', upper: '20', nominal: '15', band: null, rounding: null })
    expect(strip.nominal).toBeCloseTo(0.5)
    expect(strip.lower).toBeCloseTo(3.5 / 17)
    expect(strip.upper).toBeCloseTo(13.5 / 17)
    expect([strip.place(-100), strip.place(100), strip.beyond(6), strip.beyond(24), strip.beyond(15)]).toEqual([0, 1, -1, 1, 0])
    expect(strip.bands).toEqual([])
  })

  it('runs off its open side, and has a width where its limits are one', () => {
    const open = stripScale({ lower: '10', upper: null, nominal: '12', band: null, rounding: null })
    expect([open.upper, open.beyond(13.9), open.beyond(14.1)]).toEqual([null, 0, 1])
    expect(open.lower).toBeCloseTo(1.4 / 5.4)
    const alike = stripScale({ lower: '10', upper: '10', nominal: null, band: null, rounding: null })
    expect(alike.lower).toBeCloseTo(0.5)
    expect(stripScale({ lower: null, upper: '0', nominal: null, band: null, rounding: null }).beyond(-0.9)).toBe(0)
  })
})
