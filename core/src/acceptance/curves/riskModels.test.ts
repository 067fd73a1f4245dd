import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assess, choiceCurve, type AssessmentOptions, type SamplingChoice } from './assessment'
import { modelOf } from './riskModels'
import type { SamplingRule } from '../rules/samplingRule'

const every = { kind: 'everyArrival' } as const
const options = (lotSize: number): AssessmentOptions => ({
  lotSize,
  toPercent: 30,
  goodPercent: 1,
  poorPercent: 10,
  lotsPerMonth: 4,
  minutesPerPiece: 0.5,
})
/** A lot with a fixed sample that does not accept everything. */
const single = fc
  .record({ lotSize: fc.integer({ min: 2, max: 900 }), sampleSize: fc.integer({ min: 1, max: 300 }), accept: fc.integer({ min: 0, max: 6 }) })
  .filter(({ lotSize, sampleSize, accept }) => accept < Math.min(lotSize, sampleSize))
const near = (a: number | null, b: number | null) => (a === null || b === null ? a === b : Math.abs(a - b) < 1e-9 * Math.max(1, Math.abs(a)))

describe('the same thing said in two ways has the same risk', () => {
  it('a plan of one stage, and a fixed number', () => {
    fc.assert(
      fc.property(single, ({ lotSize, sampleSize, accept }) => {
        const fixed: SamplingRule = { kind: 'fixedNumber', sampleSize, accept }
        const staged: SamplingRule = { kind: 'stages', stages: [{ sampleSize, accept, reject: accept + 1 }] }
        const [a, b] = [fixed, staged].map((sampling) => assess({ sampling, frequency: every }, options(lotSize)))
        if (!a || !b) return false
        return (
          near(a.producersRisk, b.producersRisk) &&
          near(a.consumersRisk, b.consumersRisk) &&
          near(a.at50, b.at50) &&
          near(a.piecesPerLot, b.piecesPerLot) &&
          near(a.outgoingLimit.percent, b.outgoingLimit.percent)
        )
      }),
      { numRuns: 40 },
    )
  })

  it('a sample as large as the lot, and every piece', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 200 }), fc.double({ min: 0, max: 1, noNaN: true }), (lotSize, fraction) => {
        const whole = modelOf({ kind: 'fixedNumber', sampleSize: 500, accept: 0 }, lotSize)
        return near(whole.accepted(fraction), modelOf({ kind: 'everyPiece', accept: 0 }, lotSize).accepted(fraction))
      }),
    )
  })

  it('skipping with every lot inspected, and no skipping', () => {
    const sampling: SamplingRule = { kind: 'fixedNumber', sampleSize: 20, accept: 1 }
    const [plain, skipped] = [every, { kind: 'earnedSkipping', clearance: 5, k: 1 } as const].map((frequency) =>
      choiceCurve({ sampling, frequency }, 400, 20),
    )
    expect(skipped?.map((point) => point.accepted.toFixed(9))).toEqual(plain?.map((point) => point.accepted.toFixed(9)))
  })
})

describe('what a rule costs', () => {
  it('lies where it must: early stop no dearer, sorting between the sample and the lot, outgoing no worse than incoming', () => {
    fc.assert(
      fc.property(single, ({ lotSize, sampleSize, accept }) => {
        const { costs } = assess({ sampling: { kind: 'fixedNumber', sampleSize, accept }, frequency: every }, options(lotSize))
        const most = Math.min(sampleSize, lotSize)
        return costs.every(
          (cost) =>
            (cost.curtailedSize ?? 0) <= cost.expectedSize + 1e-9 &&
            cost.expectedSize <= most + 1e-9 &&
            cost.totalInspection >= cost.expectedSize - 1e-9 &&
            cost.totalInspection <= lotSize + 1e-9 &&
            cost.outgoingPercent <= cost.percent + 100 / lotSize,
        )
      }),
      { numRuns: 40 },
    )
  })

  it('shrinks with how often it applies, and what nobody looks at passes', () => {
    fc.assert(
      fc.property(single, fc.integer({ min: 1, max: 12 }), ({ lotSize, sampleSize, accept }, k) => {
        const sampling: SamplingRule = { kind: 'fixedNumber', sampleSize, accept }
        const choice = (frequency: SamplingChoice['frequency']) => assess({ sampling, frequency }, options(lotSize))
        const [full, part] = [choice(every), choice({ kind: 'oneIn', k })]
        return (
          near(part.shareInspected, 1 / k) &&
          near(part.consumersRisk, 1 - (1 - full.consumersRisk) / k) &&
          near(part.piecesPerMonth, (full.piecesPerMonth ?? 0) / k)
        )
      }),
      { numRuns: 30 },
    )
  })

  it('is told for a month only where the arrivals are known and do not follow the calendar', () => {
    const sampling: SamplingRule = { kind: 'fixedNumber', sampleSize: 5, accept: 0 }
    const known = assess({ sampling, frequency: every }, options(100))
    expect(known.piecesPerMonth).toBeCloseTo(4 * known.piecesPerLot, 12)
    expect(known.minutesPerMonth).toBeCloseTo(2 * known.piecesPerLot, 12)
    expect(assess({ sampling, frequency: every }, { ...options(100), lotsPerMonth: null }).piecesPerMonth).toBeNull()
    expect(assess({ sampling, frequency: { kind: 'oncePer', period: 'week' } }, options(100))).toMatchObject({
      piecesPerMonth: null,
      shareInspected: null,
    })
  })
})
