import type { ErrorCode } from '@nemawashi/contract'
import { describe, expect, it } from 'vitest'
import { wayToSubject, wrongWords } from './feedWords'

describe('an event that is kept aside', () => {
  it('says where something is wrong, and what was received', () => {
    const wrong = (code: ErrorCode | null, facts: object) => wrongWords({ code, facts: { ...facts } })
    expect(wrong('reference_unknown', { field: 'lines.0.part', received: 'SP-99' })).toMatch(
      /^Line 1, part: SP-99 is not known here\. Enter it under Define/,
    )
    expect(wrong(null, { field: 'orderNumber' })).toBe('Order number.')
    expect(wrong('input_invalid', { fields: [{ field: 'lines.1.quantity', problem: 'write a number' }] })).toMatch(
      /^Line 2, quantity: write a number\. ./,
    )
    expect(wrong(null, {})).toBe('')
  })

  it('leads to what came of it once it is taken', () => {
    expect(wayToSubject({ subjectKind: 'delivery', subjectId: 'a' })).toBe('/run/a')
    expect(wayToSubject({ subjectKind: 'order', subjectId: 'a' })).toBe('/run/orders/a')
    expect(wayToSubject({ subjectKind: 'dispatch', subjectId: 'a' })).toBe('/run/dispatches/a')
    expect(wayToSubject({ subjectKind: null, subjectId: null })).toBeNull()
  })
})
