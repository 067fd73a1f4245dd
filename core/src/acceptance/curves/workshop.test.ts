import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assess, type AssessmentOptions } from './assessment'
import { curtailedSize } from './curtailment'
import { describeSamplingRule } from '../rules/describeSamplingRule'
import { judgeSample } from '../plans/judgeSample'
import { judgeVariables } from '../variables/judgeVariables'
import { piecePositions, sampleFor } from '../rules/sampleFor'
import { sayVariables } from '../variables/sayVariables'
import { checkSamplingRule, type SamplingRule } from '../rules/samplingRule'
import { checkStages, stagedAcceptance, type Population, type Stage } from '../plans/stagedPlan'
import { twoPointDesign } from '../design/twoPointDesign'
import { variablesAcceptance } from '../variables/variablesAcceptance'
import { variablesDesign } from '../variables/variablesDesign'
import { variablesLetterFor, variablesPlanFor, variablesAqlSeries } from '../tables/variablesTables'

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

describe('sampling by variables', () => {
  it('has the letters and constants of MIL-STD-414 (Tables A-2 and B-1; from memory)', () => {
    expect(variablesLetterFor(40, 'IV')).toBe('D')
    expect(variablesPlanFor('D', 1)).toMatchObject({ sampleSize: 5, k: 1.53 })
    expect(variablesPlanFor('M', 1, 'tightened')).toMatchObject({ sampleSize: 50, k: 2.08 })
    expect(variablesPlanFor('B', 0.65)).toMatchObject({ codeLetter: 'D', arrowFrom: 'B', k: 1.65 })
    expect(() => variablesPlanFor('B', 0.04, 'tightened')).toThrow(code('plan_not_tabulated'))
    expect(() => variablesPlanFor('B', 2)).toThrow(/1.5 % or 2.5 % is the nearest/)
  })

  it('accepts lots at the AQL mostly, more surely with larger samples, as the tables intend', () => {
    for (const aql of variablesAqlSeries) {
      for (const letter of ['G', 'K', 'Q']) {
        const { sampleSize, k } = variablesPlanFor(letter, aql)
        expect(variablesAcceptance(sampleSize, k, 's')(aql / 100), `${letter} ${aql}`).toBeGreaterThan(0.85)
      }
    }
  })

  it('judges by the distance to one limit, and by both estimated fractions together', () => {
    const plan = { method: 's', sampleSize: 10, k: 1.72, sigma: null } as const
    expect(judgeVariables(plan, { lower: null, upper: 10 }, { count: 10, mean: 8, deviation: 1 })).toMatchObject({
      isAcceptable: true,
      upperIndex: 2,
    })
    const both = judgeVariables(plan, { lower: 6.4, upper: 10 }, { count: 10, mean: 8, deviation: 1 })
    expect(both.isAcceptable).toBe(false)
    expect(sayVariables(both)).toMatch(/estimated outside, M .*/)
  })

  it('refuses k out of all reach, a spread of nothing, and no limit', () => {
    const summary = { count: 5, mean: 1, deviation: 0 }
    expect(() => judgeVariables({ method: 's', sampleSize: 5, k: -101, sigma: null }, { lower: 0, upper: null }, summary)).toThrow(
      code('acceptance_constant_invalid'),
    )
    expect(() => judgeVariables({ method: 's', sampleSize: 5, k: 1, sigma: null }, { lower: 0, upper: null }, summary)).toThrow(
      code('spread_not_positive'),
    )
    expect(() => judgeVariables({ method: 'sigma', sampleSize: 5, k: 1, sigma: 1 }, { lower: null, upper: null }, summary)).toThrow(
      code('limits_missing'),
    )
  })
})

describe('a sampling rule', () => {
  it.each<readonly [SamplingRule, number, number, number, string]>([
    [{ kind: 'squareRoot', accept: 0 }, 500, 24, 0, '√500 rounded up, plus 1: 24 pieces, Ac 0'],
    [{ kind: 'positions', first: 2, last: 1, every: 50, accept: 0 }, 200, 6, 0, 'the first 2, every 50th, the last piece of 200: 6 pieces, Ac 0'],
    [
      { kind: 'zeroAcceptance', limitingPercent: 2, consumersRisk: 0.1 },
      500,
      102,
      0,
      'a lot of 500 with 10 nonconforming passes at most 10 in 100 → 102 pieces, Ac 0',
    ],
    [
      { kind: 'attributesScheme', level: 'II', aqlPercent: 0.65, severity: 'reduced' },
      2000,
      50,
      1,
      'lot 2000, level II → letter K; AQL 0.65 %, reduced → 50 pieces, Ac 1, Re 3',
    ],
    [
      { kind: 'attributesScheme', level: 'II', aqlPercent: 1, form: 'double' },
      500,
      64,
      1,
      'lot 500, level II → letter H; AQL 1 % → double sampling; 32 pieces: accept 0, Re 2; then 32: accept 1, Re 2',
    ],
    [
      { kind: 'variablesScheme', level: 'IV', aqlPercent: 1, severity: 'normal' },
      40,
      5,
      0,
      'lot 40, level IV → letter D; AQL 1 %, normal → 5 pieces, mean at least 1.53 s inside the limit',
    ],
  ])('%j in a lot of %d: %d, accept %d', (rule, lot, size, accept, reasoning) => {
    expect(sampleFor(rule, lot)).toMatchObject({ sampleSize: size, accept, reasoning })
    expect(describeSamplingRule(rule)).not.toBe('')
  })

  it('looks at every piece where the stages would take more than the lot', () => {
    expect(sampleFor({ kind: 'stages', stages: double }, 12)).toMatchObject({ sampleSize: 12, accept: 1, isEveryPiece: true })
    expect(sampleFor({ kind: 'variablesPlan', method: 's', sampleSize: 20, k: 1.5, sigma: null }, 12)).toMatchObject({
      variables: null,
      accept: 0,
      isEveryPiece: true,
    })
  })

  it('names the places of the pieces in a run', () => {
    expect(piecePositions({ kind: 'positions', first: 3, last: 2, every: 10, accept: 0 }, 25)).toEqual([1, 2, 3, 10, 20, 24, 25])
  })

  it.each<readonly [SamplingRule, string]>([
    [{ kind: 'positions', first: 0, last: 0, every: null, accept: 0 }, 'sample_size_invalid'],
    [{ kind: 'zeroAcceptance', limitingPercent: 0, consumersRisk: 0.1 }, 'percent_invalid'],
    [{ kind: 'variablesPlan', method: 'sigma', sampleSize: 5, k: 1, sigma: null }, 'spread_not_positive'],
    [{ kind: 'twoPoints', model: 'series', goodPercent: 5, poorPercent: 1, producersRisk: 0.05, consumersRisk: 0.1 }, 'qualities_reversed'],
  ])('is refused when it could never be carried out: %j', (rule, error) => {
    expect(() => checkSamplingRule(rule)).toThrow(code(error))
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
    expect(seen.sentence).toMatch(/passes .* times in 100; one with 5 passes .*On average .* pieces a lot, .* pieces a month or .*\.$/)
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
