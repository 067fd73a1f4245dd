import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import * as core from '../index'
import { describeLine } from './finding/describeFinding'
import {
  acceptancePerUnit,
  assess,
  chainAcceptance,
  CoreError,
  curtailedSize,
  judgeLine,
  judgeSample,
  judgeVariables,
  piecePositions,
  qualityInSeries,
  sampleFor,
  skipLotPerformance,
  stagedAcceptance,
  switchingSteps,
  twoPointDesign,
  twoPointDesignInLot,
  variablesAcceptance,
  variablesDesign,
  type AssessmentOptions,
  type Mark,
  type SamplingRule,
} from '../index'

const marks = (bad: number, all: number): Mark[] => Array.from({ length: all }, (_, i) => (i < bad ? 'nonconforming' : 'conforming'))
const points = (goodFraction: number, producersRisk: number, poorFraction: number, consumersRisk: number) => ({
  goodFraction,
  producersRisk,
  poorFraction,
  consumersRisk,
})
const code = (name: string) => expect.objectContaining({ code: name }) as Error

describe('a reduced single plan', () => {
  const sample = sampleFor({ kind: 'attributesScheme', level: 'II', aqlPercent: 2.5, severity: 'reduced' }, 300)
  // MIL-STD-105E, Table II-C, letter F reduced: from memory.
  it('accepts a count in the gap, and brings normal inspection back', () => {
    expect(sample.stages).toEqual([{ sampleSize: 20, accept: 1, reject: 4 }])
    const line = (bad: number) =>
      judgeLine({ name: 'x', sampleSize: 20, accept: 1, isRequired: true, isDecisive: false, stages: sample.stages, marks: marks(bad, 20) })
    expect([1, 2, 3, 4].map((bad) => line(bad).verdict)).toEqual(['acceptable', 'acceptable', 'acceptable', 'notAcceptable'])
    expect([1, 2].map((bad) => describeLine(line(bad)))).toEqual([
      '20 inspected, 1 nonconforming, Ac 1, Re 4 → acceptable',
      '20 inspected, 2 nonconforming, Ac 1, Re 4 → acceptable, and normal inspection comes back',
    ])
  })

  it('says before its end that normal inspection comes back, once that is certain, and not sooner', () => {
    const at = (inspected: number, found: number) => judgeSample(sample.stages, { inspected, found })
    expect(at(19, 2)).toMatchObject({ verdict: 'accept', isEarly: true, returnsToNormal: true })
    expect(at(18, 1)).toMatchObject({ verdict: 'accept', returnsToNormal: null })
    expect(at(20, 1)).toMatchObject({ verdict: 'accept', returnsToNormal: false })
  })
})

describe('the soonest end of a double plan', () => {
  it('looks on into the next stage', () => {
    const stages = [
      { sampleSize: 13, accept: 0, reject: 2 },
      { sampleSize: 13, accept: 1, reject: 2 },
    ]
    expect(judgeSample(stages, { inspected: 12, found: 0 })).toMatchObject({ soonestAccept: 1, soonestNotAccept: 2 })
    expect(judgeSample(stages, { inspected: 13, found: 1 })).toMatchObject({ stage: 2, soonestAccept: 13, soonestNotAccept: 1 })
  })
})

describe('plans by variables', () => {
  it('whose k is beyond what the estimate reaches ask for k at both limits, as one limit does', () => {
    const plan = { method: 's', sampleSize: 4, k: 2, sigma: null } as const
    const at = { count: 4, mean: 10, deviation: 1 }
    expect(judgeVariables(plan, { lower: 8.4, upper: 30 }, at).isAcceptable).toBe(false)
    expect(judgeVariables(plan, { lower: 8.4, upper: null }, at).isAcceptable).toBe(false)
    expect(judgeVariables(plan, { lower: 7.9, upper: 30 }, at).isAcceptable).toBe(true)
  })

  it('are designed for small risks too', () => {
    const found = [0.005, 0.001, 1e-4].map((beta) => variablesDesign(points(0.01, 0.05, 0.1, beta), 's'))
    expect(found.map(({ sampleSize }) => sampleSize)).toEqual([47, 60, 78])
    expect(found[0]?.kForConsumer).toBeCloseTo(1.9142, 4)
    expect(found[0]?.kForProducer).toBeCloseTo(1.9254, 4)
  })

  it('may have a k below 0, and one reading where σ is known', () => {
    expect(variablesAcceptance(10, -0.5, 's')(0.6)).toBeCloseTo(0.7551249691, 9)
    const line = { name: 'x', sampleSize: 1, accept: 0, isRequired: true, isDecisive: false, limits: { lower: 0, upper: null } }
    const variables = { method: 'sigma', sampleSize: 1, k: 2, sigma: 1 } as const
    expect(judgeLine({ ...line, variables, marks: marks(0, 1), values: [1.5] }).verdict).toBe('notAcceptable')
    expect(judgeLine({ ...line, variables, marks: marks(0, 1), values: [2.5] }).verdict).toBe('acceptable')
  })
})

describe('two points', () => {
  it('for a lot are whole units, without the noise of binary fractions: 2.8 % of 500 is 14', () => {
    const rule = { kind: 'twoPoints', model: 'lot', goodPercent: 2.8, producersRisk: 0.05, poorPercent: 12, consumersRisk: 0.1 } as const
    const { sampleSize, accept } = sampleFor(rule, 500)
    expect(twoPointDesignInLot(500, 14, 60, rule)).toMatchObject({ sampleSize, accept })
    expect(twoPointDesignInLot(500, 13, 60, rule)).not.toMatchObject({ sampleSize, accept })
  })

  it('close together are found by halving, with the same plan as step by step', () => {
    const stepByStep = (n: number, c: number) => ({ good: core.acceptanceInSeries(0.02, n, c), poor: core.acceptanceInSeries(0.05, n, c) })
    const { sampleSize, accept } = twoPointDesign(points(0.02, 0.05, 0.05, 0.1))
    const meets = (n: number, c: number) => stepByStep(n, c).good >= 0.95 && stepByStep(n, c).poor <= 0.1
    expect(meets(sampleSize, accept)).toBe(true)
    for (let c = 0; c <= accept + 3; c++) for (let n = c + 1; n < sampleSize; n++) expect(meets(n, c)).toBe(false)
    expect(twoPointDesign(points(0.1, 0.05, 0.101, 0.1)).sampleSize).toBeGreaterThan(700_000)
  })
})

describe('an assessment', () => {
  const options: AssessmentOptions = { lotSize: 1000, toPercent: 10, goodPercent: 1, poorPercent: 5, lotsPerMonth: null, minutesPerPiece: null }
  const every = { kind: 'everyArrival' } as const

  it('finds the worst outgoing quality wherever the drawn curve ends', () => {
    const rule = { kind: 'fixedNumber', sampleSize: 5, accept: 0 } as const
    const at = (toPercent: number) => assess({ sampling: rule, frequency: every }, { ...options, toPercent }).outgoingLimit.percent
    for (const end of [1, 10, 100]) expect(at(end)).toBeCloseTo(6.65, 2)
  })

  it('looks for rates above one nonconformity per unit', () => {
    const rule: SamplingRule = { kind: 'twoPoints', model: 'perUnit', goodPercent: 70, producersRisk: 0.1, poorPercent: 141, consumersRisk: 0.1 }
    const found = assess({ sampling: rule, frequency: every }, { ...options, toPercent: 200, goodPercent: 50, poorPercent: 150 })
    expect(found.at10).toBeGreaterThan(100)
    expect(found.at50).toBeGreaterThan(70)
    expect(core.fractionAccepted((rate) => acceptancePerUnit(20 * rate, 21), 0.5, true)).toBeCloseTo(1.083, 3)
    expect(core.fractionAccepted((rate) => acceptancePerUnit(20 * rate, 21), 0.1, true)).toBeCloseTo(1.409, 3)
  })

  it('refuses a frequency, a share or a quality that cannot be', () => {
    const sampling = { kind: 'fixedNumber', sampleSize: 5, accept: 0 } as const
    expect(() => assess({ sampling, frequency: { kind: 'randomShare', percent: 500 } }, options)).toThrow(code('percent_invalid'))
    expect(() => skipLotPerformance({ clearance: 3, fraction: 0.5 }, 2)).toThrow(code('fraction_invalid'))
    expect(() => qualityInSeries([{ sampleSize: 5, accept: 0, reject: 1 }], -1, null)).toThrow(code('fraction_invalid'))
  })
})

describe('chain sampling', () => {
  it('accepts one nonconforming piece after lots without any', () => {
    // P(0) + P(1)·P(0)^i, from the definition, n = 5, i = 3, p = 0.1.
    const none = 0.9 ** 5
    expect(chainAcceptance({ sampleSize: 5, lotsBefore: 3 })(0.1)).toBeCloseTo(none + 5 * 0.1 * 0.9 ** 4 * none ** 3, 12)
    expect(() => chainAcceptance({ sampleSize: 5, lotsBefore: 0 })).toThrow(code('clearance_invalid'))
  })
})

describe('places of pieces', () => {
  it('are counted without a list, and a list beyond all use is refused', () => {
    const rule = { kind: 'positions', first: 3, last: 2, every: 7, accept: 0 } as const
    for (const size of [1, 4, 6, 7, 8, 50, 333]) expect(sampleFor(rule, size).sampleSize).toBe(piecePositions(rule, size).length)
    expect(sampleFor({ ...rule, every: 1 }, 1_000_000_000).sampleSize).toBe(1_000_000_000)
    expect(() => piecePositions({ ...rule, every: 1 }, 20_000_000)).toThrow(code('sample_size_invalid'))
  })
})

describe('odd numbers', () => {
  const odd = fc.oneof(
    fc.constantFrom(NaN, Infinity, -Infinity, -0, -1, 0, 0.5, 1e-320, 2 ** 33, 1e308, Number.MAX_SAFE_INTEGER),
    fc.double(),
    fc.integer({ min: -3, max: 50 }),
  )
  const stages = fc.array(fc.record({ sampleSize: odd, accept: odd, reject: odd }), { maxLength: 3 })
  const calls: Record<string, (n: () => number, s: { sampleSize: number; accept: number; reject: number }[]) => unknown> = {
    acceptancePerUnit: (n) => acceptancePerUnit(n(), n()),
    acceptanceInLot: (n) => core.acceptanceInLot(n(), n(), n(), n()),
    acceptanceInSeries: (n) => core.acceptanceInSeries(n(), n(), n()),
    stagedAcceptance: (n, s) => stagedAcceptance(s, { kind: 'lot', lotSize: n(), nonconforming: n() }),
    curtailedSize: (n, s) => curtailedSize(s, { kind: 'series', fraction: n() }),
    judgeSample: (n, s) => judgeSample(s, { inspected: n(), found: n() }),
    skipLot: (n) => skipLotPerformance({ clearance: n(), fraction: n() }, n()),
    continuous: (n) => core.continuousPerformance({ clearance: n(), fraction: n() }, n()),
    chain: (n) => chainAcceptance({ sampleSize: n(), lotsBefore: n() })(n()),
    variables: (n) => variablesAcceptance(Math.min(2000, n()), n(), 's')(n()),
    variablesPlanFor: (n) => core.variablesPlanFor('A', n()),
    fixed: (n) => sampleFor({ kind: 'fixedNumber', sampleSize: n(), accept: n() }, n()),
    percentage: (n) => sampleFor({ kind: 'percentage', percent: n(), rounding: 'up', accept: n() }, n()),
    positions: (n) => sampleFor({ kind: 'positions', first: n(), last: n(), every: n(), accept: n() }, n()),
    zero: (n) => sampleFor({ kind: 'zeroAcceptance', limitingPercent: n(), consumersRisk: n() }, n()),
    scheme: (n) => sampleFor({ kind: 'attributesScheme', level: 'II', aqlPercent: n() }, n()),
    fraction: (n) => core.fractionBeyond(n(), n(), 's'),
    switching: (n) => switchingSteps([{ isAccepted: true, accept: n() }], { allowsReduced: true }),
    tolerance: (n) => core.standardTolerance(n(), n()),
    toleranceClass: (n) => core.toleranceClass(n(), 'H7'),
    round: (n) => core.roundToStep(String(n()), String(n())),
    convert: (n) => core.convertUnit(String(n()), 'mm', 'in'),
  }

  it.each(Object.keys(calls))('given to %s are refused with a code of the catalogue, or answered with numbers', (name) => {
    fc.assert(
      fc.property(fc.array(odd, { minLength: 8, maxLength: 8 }), stages, (numbers, plan) => {
        let at = 0
        try {
          const answer = calls[name]?.(() => numbers[at++] as number, plan)
          expect(
            JSON.stringify(answer, (_key, value: unknown) => (typeof value === 'number' && Number.isNaN(value) ? 'not a number' : value)),
          ).not.toContain('not a number')
        } catch (error) {
          expect(error).toBeInstanceOf(CoreError)
        }
      }),
      { numRuns: 150 },
    )
  })

  it('beyond every count are refused at once: from 2⁵³ on, a sum over counts would never go on', () => {
    const most = Number.MAX_SAFE_INTEGER
    expect(() => acceptancePerUnit(most, 3)).toThrow(code('not_finite'))
    expect(() => acceptancePerUnit(3, most)).toThrow(code('acceptance_number_invalid'))
    expect(() => core.acceptanceInSeries(0.5, most, 3)).toThrow(code('sample_size_invalid'))
  })

  it('given to an assessment never keep it from ending', () => {
    fc.assert(
      fc.property(odd, odd, odd, odd, (lotSize, toPercent, goodPercent, poorPercent) => {
        try {
          assess(
            { sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 0 }, frequency: { kind: 'everyArrival' } },
            { lotSize, toPercent, goodPercent, poorPercent, lotsPerMonth: null, minutesPerPiece: null },
          )
        } catch (error) {
          expect(error).toBeInstanceOf(CoreError)
        }
      }),
      { numRuns: 100 },
    )
  })
})
