import { describe, expect, it } from 'vitest'
import { retryFrequency } from './frequencyPast'
import type { FrequencyRule, PastArrival } from './frequencyRule'

/** o: looked at and accepted, x: looked at and not, -: passed by. */
const past = (pattern: string): PastArrival[] =>
  [...pattern].map((letter, i) => ({
    id: `A-${i}`,
    day: `2026-03-${String(i + 1).padStart(2, '0')}`,
    atHours: 24 * i,
    quantity: 10,
    isInspected: letter !== '-',
    isAccepted: letter === '-' ? null : letter === 'o',
  }))
const looked = (rule: FrequencyRule, pattern: string) =>
  retryFrequency(rule, past(pattern))
    .map(({ wouldBe }) => (wouldBe ? 'L' : '.'))
    .join('')

describe('arrivals of the past under another rule', () => {
  it('are looked at as the rule says, whatever was done then', () => {
    expect(looked({ kind: 'everyArrival' }, 'o--o')).toBe('LLLL')
    expect(looked({ kind: 'oneIn', k: 3 }, 'ooooooo')).toBe('L..L..L')
  })

  it('that failed then fail again where they are looked at, and say nothing where they pass by', () => {
    expect(looked({ kind: 'oneIn', k: 3, fullAfterFailure: 2 }, 'oooxooooo')).toBe('L..LLL..L')
    expect(looked({ kind: 'oneIn', k: 3, fullAfterFailure: 2 }, 'oxooooo')).toBe('L..L..L')
    expect(looked({ kind: 'certificateOnly', clearance: 2 }, 'ooxoo')).toBe('LL...')
  })

  it('that passed by then are taken to be accepted where the rule looks at them', () => {
    expect(looked({ kind: 'certificateOnly', clearance: 3 }, '-----')).toBe('LLL..')
  })
})
