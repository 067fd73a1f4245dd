import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assess, type AssessmentOptions } from './assessment'
import { curtailedSize } from './curtailment'
import { describeSamplingRule } from '../rules/describeSamplingRule'
import { judgeSample } from '../plans/judgeSample'
import { type SamplingRule } from '../rules/samplingRule'
import { checkStages, stagedAcceptance, type Population, type Stage } from '../plans/stagedPlan'
import { twoPointDesign } from '../design/twoPointDesign'
import { variablesAcceptance } from '../variables/variablesAcceptance'
import { variablesDesign } from '../variables/variablesDesign'

const code = (expected: string) => expect.objectContaining({ code: expected })
const double: readonly Stage[] = [
  { sampleSize: 8, accept: 0, reject: 2 },
  { sampleSize: 8, accept: 1, reject: 2 },
]
const stagedPlan = fc
  .tuple(
    fc.integer({ min: 1, max: 12 }),
    fc.integer({ min: 0, max: 3 }),
    fc.integer({ min: 2, max: 4 }),
    fc.integer({ min: 1, max: 12 }),
    fc.integer({ min: 0, max: 3 }),
  )
  .map(([first, accept, gap, second, more]): Stage[] => [
    { sampleSize: first, accept, reject: accept + gap },
    { sampleSize: second, accept: accept + gap - 1 + more, reject: accept + gap + more },
  ])

/** Every order in which a small lot can be drawn, walked piece by piece: exact, and nothing like the recursion it checks. */
function byEnumeration(stages: readonly Stage[], lotSize: number, nonconforming: number): { accepted: number; looked: number } {
  const ends = stages.map((_, i) => stages.slice(0, i + 1).reduce((sum, stage) => sum + stage.sampleSize, 0))
  const walk = (drawn: number, found: number): { accepted: number; looked: number } => {
    const judged = judgeSample(stages, { inspected: drawn, found })
    if (judged.verdict !== 'goOn') return { accepted: judged.verdict === 'accept' ? 1 : 0, looked: 0 }
    const p = (nonconforming - found) / (lotSize - drawn)
    const bad = p > 0 ? walk(drawn + 1, found + 1) : { accepted: 0, looked: 0 }
    const good = p < 1 ? walk(drawn + 1, found) : { accepted: 0, looked: 0 }
    return { accepted: p * bad.accepted + (1 - p) * good.accepted, looked: 1 + p * bad.looked + (1 - p) * good.looked }
  }
  expect(ends.at(-1)).toBeLessThanOrEqual(lotSize)
  return walk(0, 0)
}

describe('a plan of several stages', () => {
  it('gives the probability and the early-stop size that walking a lot piece by piece gives', () => {
    fc.assert(
      fc.property(stagedPlan, fc.integer({ min: 0, max: 24 }), (stages, nonconforming) => {
        const population: Population = { kind: 'lot', lotSize: 26, nonconforming }
        const walked = byEnumeration(stages, 26, nonconforming)
        return (
          Math.abs(stagedAcceptance(stages, population).accepted - walked.accepted) < 1e-12 &&
          Math.abs(curtailedSize(stages, population) - walked.looked) < 1e-9
        )
      }),
      { numRuns: 60 },
    )
  })

  it('never accepts more often as quality worsens, whatever it is drawn from', () => {
    fc.assert(
      fc.property(stagedPlan, fc.double({ min: 0, max: 0.9, noNaN: true }), (stages, p) => {
        const at = (fraction: number): number[] => [
          stagedAcceptance(stages, { kind: 'series', fraction }).accepted,
          stagedAcceptance(stages, { kind: 'perUnit', nonconformities: fraction }).accepted,
          stagedAcceptance(stages, { kind: 'lot', lotSize: 40, nonconforming: Math.floor(40 * fraction) }).accepted,
        ]
        const better = at(p)
        return at(p + 0.1).every((worse, i) => worse <= (better[i] as number) + 1e-12)
      }),
    )
  })

  it('costs no more with early stop than without', () => {
    fc.assert(
      fc.property(stagedPlan, fc.double({ min: 0, max: 1, noNaN: true }), (stages, fraction) => {
        const population = { kind: 'series', fraction } as const
        return curtailedSize(stages, population) <= stagedAcceptance(stages, population).expectedSize + 1e-9
      }),
    )
  })

  it.each([
    [[{ sampleSize: 0, accept: 0, reject: 1 }], 'sample_size_invalid'],
    [[{ sampleSize: 5, accept: 2, reject: 2 }], 'acceptance_not_below_rejection'],
    [[{ sampleSize: 5, accept: null, reject: 1 }], 'acceptance_number_invalid'],
    [[...double, { sampleSize: 8, accept: 3, reject: 4 }], 'stages_shrink'],
    [[double[1] as Stage, double[0] as Stage], 'stages_shrink'],
    [
      [
        { sampleSize: 5, accept: 1, reject: 4 },
        { sampleSize: 5, accept: 0, reject: 4 },
      ],
      'stages_shrink',
    ],
  ])('is refused when it cannot be carried out: %j', (stages, error) => {
    expect(() => checkStages(stages)).toThrow(code(error))
  })

  it('is refused when it takes more than the lot has', () => {
    expect(() => stagedAcceptance(double, { kind: 'lot', lotSize: 15, nonconforming: 1 })).toThrow(code('sample_size_invalid'))
    expect(() => stagedAcceptance(double, { kind: 'series', fraction: 1.1 })).toThrow(code('fraction_invalid'))
  })
})

describe('a sample judged as it grows', () => {
  it('goes on, and says what is still needed and when it could be certain', () => {
    expect(judgeSample(double, { inspected: 5, found: 1 })).toMatchObject({
      verdict: 'goOn',
      stage: 1,
      stillNeeded: 3,
      // Three more and the second stage's eight.
      soonestAccept: 11,
      soonestNotAccept: 1,
    })
    expect(judgeSample(double, { inspected: 8, found: 1 })).toMatchObject({ verdict: 'goOn', stage: 2, stillNeeded: 8, soonestAccept: 8 })
  })

  it('stops early when nothing can change the result', () => {
    expect(judgeSample(double, { inspected: 3, found: 2 })).toMatchObject({ verdict: 'notAccept', isEarly: true })
    expect(judgeSample([{ sampleSize: 10, accept: 3, reject: 4 }], { inspected: 8, found: 1 })).toMatchObject({ verdict: 'accept', isEarly: true })
    expect(judgeSample([{ sampleSize: 10, accept: 3, reject: 4 }], { inspected: 8, found: 1 }, true)).toMatchObject({ verdict: 'goOn' })
  })

  it('accepts in the gap of a reduced plan, and brings normal inspection back', () => {
    expect(judgeSample([{ sampleSize: 50, accept: 1, reject: 3 }], { inspected: 50, found: 2 })).toMatchObject({
      verdict: 'accept',
      returnsToNormal: true,
    })
  })

  it('refuses counts that cannot be', () => {
    expect(() => judgeSample(double, { inspected: 2, found: 3 })).toThrow(code('quantity_invalid'))
    expect(() => judgeSample(double, { inspected: 17, found: 0 })).toThrow(code('quantity_invalid'))
  })
})

describe('a design from two points', () => {
  const points = fc
    .tuple(
      fc.double({ min: 0.001, max: 0.05, noNaN: true }),
      fc.double({ min: 2.5, max: 8, noNaN: true }),
      fc.double({ min: 0.01, max: 0.2, noNaN: true }),
      fc.double({ min: 0.01, max: 0.2, noNaN: true }),
    )
    .map(([good, factor, producersRisk, consumersRisk]) => ({ goodFraction: good, poorFraction: good * factor, producersRisk, consumersRisk }))

  it('meets both risks, and one piece fewer does not', () => {
    fc.assert(
      fc.property(points, (wanted) => {
        const { sampleSize, accept } = twoPointDesign(wanted)
        const passes = (n: number, c: number, p: number) =>
          stagedAcceptance([{ sampleSize: n, accept: c, reject: c + 1 }], { kind: 'series', fraction: p }).accepted
        const meets = (n: number, c: number) =>
          n > c &&
          passes(n, c, wanted.goodFraction) >= 1 - wanted.producersRisk - 1e-10 &&
          passes(n, c, wanted.poorFraction) <= wanted.consumersRisk + 1e-10
        return meets(sampleSize, accept) && Array.from({ length: accept + 3 }, (_, c) => c).every((c) => !meets(sampleSize - 1, c))
      }),
      { numRuns: 25 },
    )
  })

  it('by variables meets both risks with fewer pieces', () => {
    fc.assert(
      fc.property(points, (wanted) => {
        const { sampleSize, k } = variablesDesign(wanted, 's')
        const passes = variablesAcceptance(sampleSize, k, 's')
        const isMet = passes(wanted.goodFraction) >= 1 - wanted.producersRisk - 1e-9 && passes(wanted.poorFraction) <= wanted.consumersRisk + 1e-9
        return isMet && sampleSize <= twoPointDesign(wanted).sampleSize + 1
      }),
      { numRuns: 25 },
    )
  })

  it.each([
    [{ goodFraction: 1.2 }, 'fraction_invalid'],
    [{ goodFraction: 0.2 }, 'qualities_reversed'],
    [{ producersRisk: 0.6, consumersRisk: 0.5 }, 'risk_invalid'],
    [{ consumersRisk: 0 }, 'risk_invalid'],
    [{ goodFraction: 0.099999, producersRisk: 0.001, consumersRisk: 0.001 }, 'design_not_found'],
  ])('is refused for %j', (change, error) => {
    expect(() => variablesDesign({ goodFraction: 0.01, poorFraction: 0.1, producersRisk: 0.05, consumersRisk: 0.1, ...change }, 'sigma')).toThrow(
      code(error),
    )
  })
})

describe('a choice weighed before it is made', () => {
  const options: AssessmentOptions = { lotSize: 1200, toPercent: 10, goodPercent: 0.65, poorPercent: 5, lotsPerMonth: 4, minutesPerPiece: 2 }
  const every = { kind: 'everyArrival' } as const
  const rules: readonly SamplingRule[] = [
    { kind: 'attributesScheme', level: 'II', aqlPercent: 0.65 },
    { kind: 'attributesScheme', level: 'II', aqlPercent: 0.65, form: 'double' },
    { kind: 'attributesScheme', level: 'II', aqlPercent: 0.65, form: 'multiple', counting: 'nonconformities' },
    { kind: 'twoPoints', model: 'lot', goodPercent: 0.65, producersRisk: 0.05, poorPercent: 5, consumersRisk: 0.1 },
    { kind: 'variablesTwoPoints', method: 's', sigma: null, goodPercent: 0.65, producersRisk: 0.05, poorPercent: 5, consumersRisk: 0.1 },
  ]

  it.each(rules.map((rule) => [describeSamplingRule(rule), rule] as const))('falls from certainty, with its risks, for %s', (_words, rule) => {
    const seen = assess({ sampling: rule, frequency: every }, options)
    expect(seen.curve[0]?.accepted).toBeCloseTo(1, 12)
    seen.curve.forEach((point, i) => expect(point.accepted).toBeLessThanOrEqual((seen.curve[i - 1]?.accepted ?? 1) + 1e-9))
    expect(seen.at95).toBeLessThan(seen.at50 ?? 0)
    expect(seen.at50).toBeLessThan(seen.at10 ?? 0)
    expect(seen.outgoingLimit.percent).toBeLessThan(seen.outgoingLimit.atPercent)
    expect(seen.costs.every((cost) => cost.totalInspection <= 1200 + 1e-9)).toBe(true)
    expect(seen.minutesPerMonth).toBeCloseTo((seen.piecesPerMonth ?? 0) * 2, 9)
    expect(seen.sentence).toMatch(/passes .* times in 100; one with 5 (%|per 100) passes .*On average .* pieces a lot, .* pieces a month or .*\.$/)
  })

  it('gives the tabulated outgoing limit of letter J, AQL 0.65 %, within what a lot of 1200 takes away (MIL-STD-105E, Table V-A: 1.1 %; from memory)', () => {
    const seen = assess({ sampling: rules[0] as SamplingRule, frequency: every }, options)
    expect(seen.outgoingLimit.percent / (1 - 80 / 1200)).toBeCloseTo(1.05, 1)
  })

  it('passes more when lots are skipped, and costs less', () => {
    const sampling = rules[0] as SamplingRule
    const all = assess({ sampling, frequency: every }, options)
    const some = assess({ sampling, frequency: { kind: 'earnedSkipping', clearance: 8, k: 5 } }, options)
    expect(some.consumersRisk).toBeGreaterThanOrEqual(all.consumersRisk)
    expect(some.piecesPerLot).toBeLessThan(all.piecesPerLot)
    expect(some.shareInspected).toBeLessThan(1)
    expect(assess({ sampling, frequency: { kind: 'oncePer', period: 'week' } }, options).shareInspected).toBeNull()
  })

  it('reads a run as continuous sampling', () => {
    const run = assess({ sampling: { kind: 'continuous', clearance: 50, k: 10 }, frequency: every }, options)
    expect(run.model).toBe('run')
    expect(run.sentence).toMatch(/units pass under sampling/)
    expect(run.outgoingLimit.percent).toBeGreaterThan(0)
  })
})
