import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { CoreError } from '../errors'
import { readInstrumentLine } from './instrumentLine'
import { isDoublePress, sentText, waitingReasons, waitingWords, whyItWaits, type BenchMoment } from './sentValue'

const refused = (line: string) => {
  try {
    readInstrumentLine(line)
  } catch (error) {
    return (error as CoreError).code
  }
  return null
}

describe('a line of an instrument', () => {
  it('says a key, a value, that it is there, or the end, in any case of letters', () => {
    expect(readInstrumentLine('key abc-DEF_1')).toEqual({ kind: 'key', key: 'abc-DEF_1' })
    expect(readInstrumentLine(' ALIVE ')).toEqual({ kind: 'alive' })
    expect(readInstrumentLine('end')).toEqual({ kind: 'end' })
    expect(readInstrumentLine('VALUE 17 12,345 mm AGE 250')).toEqual({
      kind: 'value',
      sent: { sendId: '17', value: '12.345', unit: 'mm', ageMs: 250 },
    })
    expect(readInstrumentLine('value 18 -0.5')).toEqual({ kind: 'value', sent: { sendId: '18', value: '-0.5', unit: '', ageMs: 0 } })
    expect(readInstrumentLine('VALUE 19 7 age 9')).toMatchObject({ sent: { unit: '', ageMs: 9 } })
  })

  it('that says anything else is refused with a code, whatever it is', () => {
    for (const line of [
      '',
      'HELLO',
      'KEY',
      'KEY a b',
      'VALUE',
      'VALUE 1',
      'VALUE 1 2 mm 3',
      'VALUE 1 2 AGE',
      'VALUE 1 2 AGE -1',
      'VALUE 1 2 AGE 1 2',
    ])
      expect(refused(line), line).toBe('line_not_understood')
    expect(refused('VALUE 1 twelve mm')).toBe('not_a_number')
    expect(refused(`VALUE ${'9'.repeat(41)} 1`)).toBe('line_not_understood')
    expect(refused('VALUE 1 2 mm AGE 604800001')).toBe('line_not_understood')
    expect(refused(`ALIVE${' '.repeat(200)}`)).toBe('line_not_understood')
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (line) => {
        const code = refused(line)
        return code === null || ['line_not_understood', 'not_a_number', 'number_too_long'].includes(code)
      }),
    )
  })
})

describe('a value that was sent', () => {
  it('is the same press once more within 200 ms with the same number and unit, and only then', () => {
    const first = { value: '12.3', unit: 'mm', atMs: 1_000 }
    expect(isDoublePress(first, { ...first, atMs: 1_199 })).toBe(true)
    expect(isDoublePress(first, { ...first, atMs: 1_200 })).toBe(false)
    expect(isDoublePress(first, { ...first, value: '12.4', atMs: 1_050 })).toBe(false)
    expect(isDoublePress(first, { ...first, unit: 'in', atMs: 1_050 })).toBe(false)
    // What came later may have been pressed before.
    expect(isDoublePress(first, { ...first, atMs: 700 })).toBe(false)
  })

  it('is typed with its unit, or that of the register, where the line has another', () => {
    expect(sentText({ value: '0.5', unit: 'in' }, { lineUnit: 'mm', gaugeUnit: 'mm' })).toBe('0.5 in')
    expect(sentText({ value: '0.5', unit: '' }, { lineUnit: 'mm', gaugeUnit: 'in' })).toBe('0.5 in')
    expect(sentText({ value: '0.5', unit: 'mm' }, { lineUnit: 'mm', gaugeUnit: 'in' })).toBe('0.5')
    expect(sentText({ value: '0.5', unit: '' }, { lineUnit: 'mm', gaugeUnit: null })).toBe('0.5')
  })

  const line = { kind: 'measured', recording: 'pieces', sampleSize: 5 } as const
  const bench: BenchMoment = { line, gaugeId: 'g', piece: 3, isAnswered: false, isTyping: false, isAsking: false, waiting: 0 }
  const value = { gaugeId: 'g', ageMs: 5_000 }

  it('goes into the open cell of a line that is measured with its gauge, or waits with a reason', () => {
    expect(whyItWaits(value, bench)).toBeNull()
    expect(whyItWaits({ ...value, ageMs: 5_001 }, bench)).toBe('late')
    expect(whyItWaits({ ...value, gaugeId: 'h' }, bench)).toBe('otherGauge')
    expect(whyItWaits(value, { ...bench, line: null })).toBe('notMeasured')
    expect(whyItWaits(value, { ...bench, line: { ...line, kind: 'judged' } })).toBe('notMeasured')
    expect(whyItWaits(value, { ...bench, line: { ...line, recording: 'summary' } })).toBe('notMeasured')
    expect(whyItWaits(value, { ...bench, waiting: 1 })).toBe('queued')
    expect(whyItWaits(value, { ...bench, isAsking: true })).toBe('asking')
    expect(whyItWaits(value, { ...bench, isTyping: true })).toBe('typing')
    expect(whyItWaits(value, { ...bench, isAnswered: true })).toBe('answered')
    expect(whyItWaits(value, { ...bench, piece: 6 })).toBe('answered')
    for (const reason of waitingReasons) expect(waitingWords(reason)).toMatch(/\w/)
  })

  it('never replaces an answer or what is being typed, whatever else is so', () => {
    const moment = fc.record({
      ...{ line: fc.constantFrom(line, null), gaugeId: fc.constantFrom('g', 'h', null), piece: fc.integer({ min: 1, max: 6 }) },
      ...{ isAnswered: fc.boolean(), isTyping: fc.boolean(), isAsking: fc.boolean(), waiting: fc.integer({ min: 0, max: 2 }) },
    })
    fc.assert(
      fc.property(moment, fc.integer({ min: 0, max: 10_000 }), (now, ageMs) => {
        if (whyItWaits({ gaugeId: 'g', ageMs }, now) !== null) return true
        return !now.isAnswered && !now.isTyping && !now.isAsking && now.waiting === 0 && now.gaugeId === 'g' && ageMs <= 5_000
      }),
    )
  })
})
