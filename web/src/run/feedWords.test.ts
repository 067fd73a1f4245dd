import { describe, expect, it } from 'vitest'
import { wayToSubject, wrongWords } from './feedWords'

describe('an event that is kept aside', () => {
  it('says where something is wrong, and what was received', () => {
    expect(wrongWords({ field: 'lines.0.part', received: 'SP-99' })).toBe('line 1, part: SP-99.')
    expect(wrongWords({ field: 'orderNumber' })).toBe('order number.')
    expect(wrongWords({ fields: [{ field: 'lines.1.quantity', problem: 'write a number' }] })).toBe('line 2, quantity: write a number.')
    expect(wrongWords({})).toBe('')
  })

  it('leads to what came of it once it is taken', () => {
    expect(wayToSubject({ subjectKind: 'delivery', subjectId: 'a' })).toBe('/run/a')
    expect(wayToSubject({ subjectKind: 'order', subjectId: 'a' })).toBe('/run/orders/a')
    expect(wayToSubject({ subjectKind: 'dispatch', subjectId: 'a' })).toBe('/run/dispatches/a')
    expect(wayToSubject({ subjectKind: null, subjectId: null })).toBeNull()
  })
})
