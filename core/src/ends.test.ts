import { describe, expect, it } from 'vitest'
import { outgoingLimit } from './acceptance/plans/planQuality'
import { nonCentralBelow } from './capability/nonCentralT'
import {
  assess,
  curtailedSize,
  dispatchTransitions,
  formatDecimal,
  incompleteBeta,
  historyOf,
  isDue,
  largestLot,
  logGamma,
  canTransition,
  parseDecimal,
  parseSummary,
  piecesAsked,
  serialsFor,
  twoLimitAcceptance,
  type SamplingRule,
} from './index'

const code = (name: string) => expect.objectContaining({ code: name }) as Error

describe('at the ends of what can be asked', () => {
  it('the largest lot has its mean sample', () => {
    const stages = [{ sampleSize: 500, accept: 1, reject: 2 }]
    const found = curtailedSize(stages, { kind: 'lot', lotSize: largestLot, nonconforming: largestLot / 100 })
    expect(found).toBeCloseTo(curtailedSize(stages, { kind: 'series', fraction: 0.01 }), 2)
  })

  it('a sample by variables ends at the largest lot, and the degrees of freedom where a step each is no longer worth it', () => {
    expect(twoLimitAcceptance(largestLot, 1.5, 's')(0.5)).toBeCloseTo(0, 12)
    for (const sampleSize of [1e15, largestLot + 1, Number.NaN])
      expect(() => twoLimitAcceptance(sampleSize, 1.5, 's')).toThrow(code('sample_size_invalid'))
    expect(() => nonCentralBelow(1e9, 10)).toThrow(code('sample_size_invalid'))
  })

  it('the worst average outgoing quality of a large plan is found, of one sample and of two', () => {
    const two = [
      { sampleSize: 2000, accept: 10, reject: 600 },
      { sampleSize: 2000, accept: 600, reject: 601 },
    ]
    const found = outgoingLimit(two, null)
    expect(found.x).toBeGreaterThan(found.value)
    const { x, value } = outgoingLimit([{ sampleSize: 1_000_000, accept: 500_000, reject: 500_001 }], largestLot)
    // Half of it is accepted where half of it is bad: next to it the curve drops at once.
    expect(x).toBeGreaterThan(0.497)
    expect(value).toBeLessThan(x)
  })

  it('figures of an assessment that are none are refused by name', () => {
    const rule: SamplingRule = { kind: 'attributesScheme', level: 'II', aqlPercent: 0.65 }
    const options = { lotSize: 100, toPercent: 10, goodPercent: 1, poorPercent: 5, lotsPerMonth: null, minutesPerPiece: null }
    for (const change of [{ lotsPerMonth: Number.NaN }, { minutesPerPiece: -1 }])
      expect(() => assess({ sampling: rule, frequency: { kind: 'everyArrival' } }, { ...options, ...change })).toThrow(code('quantity_invalid'))
  })

  it('the beta and gamma functions say what they cannot answer', () => {
    expect([incompleteBeta(-1e-9, 2, 3), incompleteBeta(1.5, 2, 3)]).toEqual([0, 1])
    for (const [x, a, b] of [
      [Number.NaN, 1, 1],
      [0.5, 0, 1],
      [0.5, 1, Infinity],
    ] as const)
      expect(() => incompleteBeta(x, a, b)).toThrow(code('not_finite'))
    expect(() => logGamma(0)).toThrow(code('not_finite'))
  })

  it('a number has no sign where it is nothing, a printed minus is one, and no places are refused', () => {
    expect(formatDecimal(parseDecimal('−0.40'), 0)).toBe('0')
    expect(formatDecimal(parseDecimal('−0.40'), 2)).toBe('-0.40')
    expect(() => formatDecimal(parseDecimal('1'), 1.5)).toThrow(code('too_many_decimals'))
  })

  it('a summary says each of its numbers once', () => {
    expect(() => parseSummary('n 5, mean 2, mean 3')).toThrow(code('answer_invalid'))
  })

  it('a rule of hours in tenths is due on the instant', () => {
    const rule = { kind: 'perHours', hours: 0.3 } as const
    const arrival = (atHours: number) => ({ id: String(atHours), day: '2026-03-02', atHours, quantity: 1 })
    expect(isDue(rule, arrival(100.3), historyOf([{ ...arrival(100), isInspected: true, isAccepted: true }])).isDue).toBe(true)
  })

  it('a blank piece ends what is asked for, whatever stands behind it', () => {
    const stages = [
      { sampleSize: 3, accept: 0, reject: 2 },
      { sampleSize: 3, accept: 1, reject: 2 },
    ]
    const line = { recording: 'pieces' as const, sampleSize: 6, stages, isDecisive: false }
    expect(piecesAsked(line, (piece) => (piece === 2 ? null : { mark: 'nonconforming' }))).toBe(3)
  })

  it('numbers are given to no more pieces than a lot of numbered ones has', () => {
    for (const count of [0, 1.5, 100_001]) expect(() => serialsFor('L-000001', count)).toThrow(code('serials_not_understood'))
  })

  it('what a life does not know cannot be done', () => {
    expect(canTransition(dispatchTransitions, 'toString' as never, 'open')).toBe(false)
  })
})
