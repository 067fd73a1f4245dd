import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  answerWords,
  cellCount,
  countIn,
  documentIn,
  documentText,
  isResolutionFine,
  parseSummary,
  readAnswer,
  summaryText,
  type AskedLine,
} from './answers'
import { gateLine as base } from './gateLine'

const code = (expected: string) => expect.objectContaining({ code: expected })

describe('an answer', () => {
  it('that was measured may be entered in another unit of the same quantity; both are kept', () => {
    expect(readAnswer(base, '12,5')).toEqual({ value: '12.50', mark: 'conforming', entered: null })
    expect(readAnswer(base, '12.5 mm')).toEqual({ value: '12.50', mark: 'conforming', entered: null })
    expect(readAnswer(base, '0.4945 in')).toEqual({ value: '12.5603', mark: 'nonconforming', entered: '0.4945 in' })
    expect(() => readAnswer(base, '12.5 N')).toThrow(code('unit_mismatch'))
    expect(() => readAnswer(base, '12.505')).toThrow(code('too_many_decimals'))
  })

  it('of a list says whether it conforms, or neither', () => {
    const coded: AskedLine = {
      ...base,
      kind: 'coded',
      answers: [
        { code: 'A', words: 'even', verdict: 'conforming' },
        { code: 'B', words: 'streaks', verdict: 'nonconforming' },
        { code: 'C', words: 'reference piece', verdict: 'neither' },
      ],
    }
    expect(['a', 'B', 'C'].map((answer) => readAnswer(coded, answer).mark)).toEqual(['conforming', 'nonconforming', 'notJudged'])
    expect(() => readAnswer(coded, 'D')).toThrow(/one of A \(even\)/)
  })

  it('that counts is a number, or fault codes with their numbers', () => {
    const counted: AskedLine = { ...base, kind: 'counted', faultCodes: ['SCR', 'DENT'] }
    expect(readAnswer(counted, '0')).toMatchObject({ value: '0', mark: 'conforming' })
    expect(readAnswer(counted, 'SCR 2, DENT 1')).toMatchObject({ value: 'SCR 2, DENT 1', mark: 'nonconforming' })
    expect(countIn('SCR 2, DENT 1')).toBe(3)
    expect(countIn('4')).toBe(4)
    expect(() => readAnswer(counted, 'RUST 1')).toThrow(code('answer_invalid'))
    expect(() => readAnswer(counted, '1.5')).toThrow(code('answer_invalid'))
  })

  it.each([
    ['number', '12,5', '12.5'],
    ['date', '2028-02-29', '2028-02-29'],
    ['yesNo', 'y', 'Y'],
    ['text', ' mill 3 ', 'mill 3'],
    ['document', ' cert-17.pdf [0190a5b2-0000-7000-8000-00000000000a]', 'cert-17.pdf [0190a5b2-0000-7000-8000-00000000000a]'],
  ] as const)('that is noted has no verdict: %s', (noteType, typed, value) => {
    expect(readAnswer({ ...base, kind: 'noted', noteType }, typed)).toEqual({ value, mark: 'notJudged', entered: null })
  })

  it.each([
    ['date', '2026-02-29'],
    ['date', '31.3.2026'],
    ['yesNo', 'maybe'],
    ['text', '  '],
    ['number', 'much'],
    ['document', 'cert-17.pdf'],
    ['document', 'cert-17.pdf [17]'],
  ] as const)('that is noted is refused in the wrong form: %s %j', (noteType, typed) => {
    expect(() => readAnswer({ ...base, kind: 'noted', noteType }, typed)).toThrow()
  })

  it('that sums readings up is one cell, must be possible, and agree with its own count', () => {
    const line: AskedLine = { ...base, recording: 'summary' }
    const text = 'n 5, mean 12.50, s 0.02, min 12.47, max 12.53, x 0'
    expect(readAnswer(line, text)).toMatchObject({ value: text, mark: 'conforming' })
    expect(summaryText(parseSummary(text))).toBe(text)
    expect(() => readAnswer(line, 'n 5, mean 12.60, s 0.02, min 12.47, max 12.53, x 0')).toThrow(code('summary_impossible'))
    expect(() => readAnswer(line, 'n 5, mean 12.50, s 0.04, min 12.44, max 12.53, x 0')).toThrow(
      /of 5 pieces 1 to 4 can be nonconforming; received 0/,
    )
    expect(() => readAnswer(line, 'n 5, mean 12.50, s 0.02, min 12.47, max 12.53, x 1')).toThrow(code('summary_impossible'))
    expect(() => readAnswer(line, 'n 5, mean 12.50')).toThrow(/lacks min/)
    expect(cellCount({ recording: 'summary', sampleSize: 50 })).toBe(1)
  })
})

it('a resolution should be a tenth of the tolerance or finer (common practice)', () => {
  expect(isResolutionFine('12.45', '12.55', '0.01')).toBe(true)
  expect(isResolutionFine('12.45', '12.55', '0.02')).toBe(false)
  expect(isResolutionFine('145', null, '5')).toBe(true)
})

describe('a document as an answer', () => {
  const id = '0190a5b2-0000-7000-8000-00000000000a'
  it('comes back with the name it has, whatever that is, and reads by it', () => {
    fc.assert(
      fc.property(
        fc.string({ minLength: 1, maxLength: 30 }).filter((name) => !/[\n\r\u2028\u2029]/.test(name)),
        (name) => {
          expect(documentIn(documentText(name, id))).toEqual({ name, id })
          expect(answerWords(documentText(name, id))).toBe(name)
        },
      ),
    )
    expect(answerWords('12.5')).toBe('12.5')
    expect(documentIn('a [b]')).toBeNull()
  })
})
