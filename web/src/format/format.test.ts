import { describe, expect, it } from 'vitest'
import { amount, count, limitsWords, since, whole } from './format'

describe('numbers and moments for people', () => {
  it('group thousands and know one from many', () => {
    expect(whole(1234567)).toBe('1\u00a0234\u00a0567')
    expect(amount(1, 'bar')).toBe('1 bar')
    expect(amount(240, 'piece')).toBe('240 pieces')
    expect(amount(60, 'kg')).toBe('60 kg')
    expect(count(1, 'line')).toBe('1 line')
  })

  it('say how long ago something was', () => {
    const now = Date.parse('2026-03-05T12:00:00Z')
    expect(since('2026-03-05T11:20:00Z', now)).toBe('40 min')
    expect(since('2026-03-05T09:00:00Z', now)).toBe('3 h')
    expect(since('2026-03-03T08:00:00Z', now)).toBe('2 d 4 h')
    expect(since('2026-03-02T08:00:00Z', now)).toBe('3 d 4 h')
    expect(since('2026-03-01T12:00:00Z', now)).toBe('4 d')
    expect(since('2026-02-20T08:00:00Z', now)).toBe('13 d')
    expect(since('2026-03-06T08:00:00Z', now)).toBe('0 min')
  })

  it('put limits into words, one-sided ones too', () => {
    expect(limitsWords({ lower: '0.25', upper: '0.35', unit: 'mm' })).toBe('0.25 to 0.35 mm')
    expect(limitsWords({ lower: '145', upper: null, unit: 'HBW' })).toBe('at least 145 HBW')
    expect(limitsWords({ lower: null, upper: '0.8', unit: null })).toBe('at most 0.8')
  })
})
