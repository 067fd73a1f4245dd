import { describe, expect, it } from 'vitest'
import continuous from '../../../testdata/skip-and-continuous.json'
import counted from '../../../testdata/oc-attributes.json'
import designs from '../../../testdata/plan-design.json'
import measured from '../../../testdata/variables-oc.json'
import { acceptanceInLot, acceptanceInSeries } from '../chance/acceptanceProbability'
import { continuousDesign, continuousOutgoingLimit, continuousPerformance } from '../frequency/continuousSampling'
import { fractionBeyond, largestFraction } from '../variables/fractionEstimate'
import { fractionAccepted, outgoingLimit, qualityInSeries } from '../plans/planQuality'
import { skipLotPerformance } from '../frequency/skipLot'
import { singleStage, stagedAcceptance, type Population, type Stage } from '../plans/stagedPlan'
import { acceptancePerUnit } from '../chance/acceptanceProbability'
import { twoPointDesign, twoPointDesignInLot } from './twoPointDesign'
import { variablesAcceptance } from '../variables/variablesAcceptance'
import { variablesDesign } from '../variables/variablesDesign'
import { zeroAcceptanceSize, zeroAcceptanceSizeInSeries } from './zeroAcceptance'

/** Every check value names its source, an independent general library; a case passes within the tolerance that it states. */
type Numbers = Record<string, number>
interface Case {
  readonly id: string
  readonly inputs: Record<string, unknown>
  readonly expected: Record<string, unknown>
  readonly tolerance: { readonly rel: number; readonly abs: number; readonly fields?: Record<string, { rel: number; abs: number }> }
  readonly source: string
}
type Answer = Record<string, number | readonly number[]>

const doubled = ({ n1 = 0, c1 = 0, r1 = 0, n2 = 0, c2 = 0 }: Numbers): Stage[] => [
  { sampleSize: n1, accept: c1, reject: r1 },
  { sampleSize: n2, accept: c2, reject: c2 + 1 },
]
const population = (kind: string, { p = 0, N = 0, D = 0 }: Numbers): Population =>
  kind === 'binomial'
    ? { kind: 'series', fraction: p }
    : kind === 'poisson'
      ? { kind: 'perUnit', nonconformities: p }
      : { kind: 'lot', lotSize: N, nonconforming: D }

const double = (kind: string) => (inputs: Numbers) => {
  const got = stagedAcceptance(doubled(inputs), population(kind, inputs))
  const first = got.acceptedByStage[0] as number
  return { pa: got.accepted, asn: got.expectedSize, pa_first: first, p_second_sample: 1 - first - (got.rejectedByStage[0] as number) }
}
const multiple = (kind: string) => (inputs: Numbers) => {
  const { n, ac, re } = inputs as unknown as Record<'n' | 'ac' | 're', number[]>
  const stages = n.map((sampleSize, i) => ({ sampleSize, accept: ac[i] === -1 ? null : (ac[i] as number), reject: re[i] as number }))
  const got = stagedAcceptance(stages, population(kind, inputs))
  return { pa: got.accepted, asn: got.expectedSize, pa_by_stage: got.acceptedByStage, pr_by_stage: got.rejectedByStage }
}
const points = ({ p1 = 0, alpha = 0, p2 = 0, beta = 0 }: Numbers) => ({
  goodFraction: p1,
  producersRisk: alpha,
  poorFraction: p2,
  consumersRisk: beta,
})
const designed = ({ sampleSize, accept, goodAccepted, poorAccepted }: ReturnType<typeof twoPointDesign>) => ({
  n: sampleSize,
  c: accept,
  pa_p1: goodAccepted,
  pa_p2: poorAccepted,
})
const qualities = (accepted: (p: number) => number) => ({
  p_pa_95: fractionAccepted(accepted, 0.95) as number,
  p_pa_50: fractionAccepted(accepted, 0.5) as number,
  p_pa_10: fractionAccepted(accepted, 0.1) as number,
})

const answers: Record<string, (inputs: Numbers) => Answer> = {
  'single.binomial': ({ p = 0, n = 0, c = 0 }) => ({ pa: acceptanceInSeries(p, n, c) }),
  'single.hypergeometric': ({ N = 0, D = 0, n = 0, c = 0 }) => ({ pa: acceptanceInLot(N, D, n, c) }),
  'single.poisson': ({ p = 0, n = 0, c = 0 }) => ({ pa: acceptancePerUnit(n * p, c) }),
  'double.binomial': double('binomial'),
  'double.poisson': double('poisson'),
  'double.hypergeometric': double('lot'),
  'multiple.binomial': multiple('binomial'),
  'multiple.poisson': multiple('poisson'),
  'multiple.hypergeometric': multiple('lot'),
  'single.aoq_ati': ({ N = 0, n = 0, c = 0, p = 0 }) => {
    const finite = qualityInSeries(singleStage(n, c), p, N)
    return {
      pa: finite.accepted,
      aoq_finite: finite.outgoing,
      aoq_large: qualityInSeries(singleStage(n, c), p, null).outgoing,
      ati: finite.totalInspection,
    }
  },
  'single.aoql': ({ N, n = 0, c = 0 }) => {
    const { x, value } = outgoingLimit(singleStage(n, c), N ?? null)
    return { aoql: value, p_at_max: x }
  },
  'single.quantiles.binomial': ({ n = 0, c = 0 }) => qualities((p) => acceptanceInSeries(p, n, c)),
  'single.quantiles.poisson': ({ n = 0, c = 0 }) => qualities((p) => acceptancePerUnit(n * p, c)),
  'double.quantiles.binomial': (inputs) => qualities((p) => stagedAcceptance(doubled(inputs), { kind: 'series', fraction: p }).accepted),
  'design.binomial': (inputs) => designed(twoPointDesign(points(inputs))),
  'design.poisson': (inputs) => designed(twoPointDesign(points(inputs), 'perUnit')),
  'design.hypergeometric': ({ N = 0, D1 = 0, D2 = 0, alpha = 0, beta = 0 }) =>
    designed(twoPointDesignInLot(N, D1, D2, { producersRisk: alpha, consumersRisk: beta })),
  'c0.binomial': ({ ltpd = 0, beta = 0 }) => {
    const n = zeroAcceptanceSizeInSeries(ltpd, beta)
    return { n, pa: acceptanceInSeries(ltpd, n, 0) }
  },
  'c0.hypergeometric': ({ N = 0, D = 0, beta = 0 }) => {
    const n = zeroAcceptanceSize(N, D, beta)
    return { n, pa: acceptanceInLot(N, D, n, 0) }
  },
  'design.variables.sigma': (inputs) => {
    const { sampleSize, kForProducer, kForConsumer } = variablesDesign(points(inputs), 'sigma')
    return { n: sampleSize, k_producer: kForProducer, k_consumer: kForConsumer }
  },
  'design.variables.s': (inputs) => {
    const { sampleSize, kForProducer, kForConsumer, k, goodAccepted, poorAccepted } = variablesDesign(points(inputs), 's')
    return { n: sampleSize, k_producer: kForProducer, k_consumer: kForConsumer, k_mid: k, pa_p1_at_k_mid: goodAccepted, pa_p2_at_k_mid: poorAccepted }
  },
  'oc.s_one_sided': ({ n = 0, k = 0, p = 0 }) => ({ pa: variablesAcceptance(n, k, 's')(p) }),
  'oc.sigma_one_sided': ({ n = 0, k = 0, p = 0 }) => ({ pa: variablesAcceptance(n, k, 'sigma')(p) }),
  'phat.s': ({ Q = 0, n = 0 }) => ({ p: fractionBeyond(Q, n, 's') }),
  'phat.sigma': ({ Q = 0, n = 0 }) => ({ p: fractionBeyond(Q, n, 'sigma') }),
  'k_to_M.s': ({ k = 0, n = 0 }) => ({ M: largestFraction(k, n, 's') }),
  'csp1.point': ({ i = 0, f = 0, p = 0 }) => {
    const { fullRun, sampledRun, inspected, outgoing, accepted } = continuousPerformance({ clearance: i, fraction: f }, p)
    return { afi: inspected, aoq: outgoing, pa: accepted, u: fullRun, v: sampledRun }
  },
  'csp1.aoql': ({ i = 0, f = 0 }) => {
    const { x, value } = continuousOutgoingLimit({ clearance: i, fraction: f })
    return { aoql: value, p_at_max: x }
  },
  'csp1.design': ({ f = 0, aoql = 0 }) => {
    const i = continuousDesign(f, aoql)
    return { i, aoql_reached: continuousOutgoingLimit({ clearance: i, fraction: f }).value }
  },
  sksp2: ({ n = 0, c = 0, p = 0, i = 0, f = 0 }) => {
    const reference = acceptanceInSeries(p, n, c)
    const { accepted, inspected } = skipLotPerformance({ clearance: i, fraction: f }, reference)
    return { P: reference, pa: accepted, fraction_inspected: inspected, asn: n * inspected }
  },
}

const cases = [...counted, ...designs, ...measured, ...continuous] as unknown as Case[]

describe('sampling agrees with the check values', () => {
  it.each(
    cases.filter(({ inputs }) => answers[inputs['kind'] as string]).map((entry) => [`${entry.id} ${String(entry.inputs['kind'])}`, entry] as const),
  )('%s', (_name, { inputs, expected, tolerance, source }) => {
    const got = answers[inputs['kind'] as string]?.(inputs as Numbers) ?? {}
    for (const [key, value] of Object.entries(got)) {
      if (expected[key] === null || expected[key] === undefined) continue
      const wanted = [expected[key]].flat() as number[]
      const { rel, abs } = tolerance.fields?.[key] ?? tolerance
      ;[value].flat().forEach((number, place) => {
        const target = wanted[place] as number
        expect(Math.abs(number - target), `${key}[${place}] is ${number}, not ${target} (${source})`).toBeLessThanOrEqual(
          Math.max(abs, rel * Math.abs(target)),
        )
      })
    }
  })

  it('for every kind of them but the ones of other parts of the core', () => {
    const others = cases.map(({ inputs }) => inputs['kind'] as string).filter((kind) => !answers[kind])
    expect([...new Set(others)].sort()).toEqual(['chsp1', 'phat.s_two_sided', 'phat.sigma_two_sided'])
  })
})
