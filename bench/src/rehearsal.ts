import {
  considerPoints,
  LoadTally,
  playOccasions,
  sampleFor,
  totalLoad,
  type FrequencyRule,
  type PastOccasion,
  type RuledLine,
  type RuledPoint,
  type SamplingRule,
} from '@nemawashi/core'
import { medianMs, type Row } from './measure'

const [parts, families, suppliers, occasions] = [200, 20, 12, 20_000]
const frequencies: readonly FrequencyRule[] = [
  { kind: 'everyArrival' },
  { kind: 'oneIn', k: 3, fullAfterFailure: 5 },
  { kind: 'randomShare', percent: 25 },
  { kind: 'oncePer', period: 'week' },
  { kind: 'earnedSkipping', clearance: 10, k: 4 },
]
const samplings: readonly SamplingRule[] = [
  { kind: 'attributesScheme', level: 'II', aqlPercent: 0.65, switching: 'withoutReduced' },
  { kind: 'attributesScheme', level: 'S-3', aqlPercent: 1 },
  { kind: 'fixedNumber', sampleSize: 5, accept: 0 },
  { kind: 'zeroAcceptance', limitingPercent: 2.5, consumersRisk: 0.1 },
]
const pick = <T>(items: readonly T[], i: number): T => items[i % items.length] as T

function plantOf(): { points: RuledPoint[]; plans: Map<string, RuledLine[]>; past: PastOccasion[] } {
  const lines = (plan: number): RuledLine[] =>
    samplings.map((sampling, i) => ({
      characteristicId: `C-${plan}-${i}`,
      sampling,
      minutesPerPiece: 1 + (i % 3),
      isRequired: true,
      isDecisive: false,
      targets: [],
      detached: null,
    }))
  const plans = new Map(Array.from({ length: 40 }, (_, plan) => [`PL-${plan}`, lines(plan)]))
  const at = {
    operationId: 'receiving',
    moment: 'arrival',
    subject: 'lot',
    every: null,
    supplierId: null,
    customerId: null,
    supplierGroup: null,
    contract: null,
    isGate: true,
    holds: 'all',
  } as const
  const points = Array.from({ length: 300 }, (_, i): RuledPoint => {
    const ofFamily = { partId: null, familyId: i < 295 ? `F-${i % families}` : null, supplierId: `S-${i % suppliers}` }
    const reach = i < parts ? { partId: `P-${i}`, familyId: null } : ofFamily
    return { ...at, ...reach, id: `CP-${i}`, planId: `PL-${i % 40}`, frequency: pick(frequencies, i) }
  })
  const past = Array.from({ length: occasions }, (_, i): PastOccasion => {
    const part = (i * 7919) % parts
    return {
      id: `O-${i}`,
      occasionId: `D-${Math.floor(i / 4)}`,
      day: new Date(Date.UTC(2026, 0, 1) + ((i * 365) / occasions) * 86_400_000).toISOString().slice(0, 10),
      atHours: (i * 8760) / occasions,
      quantity: 50 + ((i * 104_729) % 3000),
      operationId: 'receiving',
      moment: 'arrival',
      partId: `P-${part}`,
      familyId: `F-${part % families}`,
      supplierId: `S-${(i * 31) % suppliers}`,
      customerId: null,
      supplierGroup: null,
      contract: null,
      counted: null,
      units: [],
      failed: i % 37 === 0 ? [`PL-${part % 40}`] : [],
      judged: [],
      opened: 0,
    }
  })
  return { points, plans, past }
}

/** A year played under the control points in force, against only finding which of them reach, and one sample a line, without any history. */
export async function benchRehearsal(): Promise<Row[]> {
  const { points, plans, past } = plantOf()
  let inspections = 0
  const ours = () => {
    const tally = new LoadTally('2026-01-01', '2026-12-31')
    for (const played of playOccasions({ points, plans }, past)) tally.add(played)
    inspections = totalLoad(tally.weeks).inspections
  }
  const bare = () => {
    let pieces = 0
    for (const occasion of past)
      for (const { point, opens } of considerPoints(points, occasion))
        if (opens) for (const line of plans.get(point.planId) ?? []) pieces += sampleFor(line.sampling, occasion.quantity).sampleSize
    return pieces
  }
  const [oursMs, bareMs] = [await medianMs(3, ours), await medianMs(3, bare)]
  return [
    {
      what: `a year, ${occasions} occasions, ${points.length} points: ${inspections} opened`,
      ours: `${oursMs.toFixed(0)} ms`,
      bare: `${bareMs.toFixed(0)} ms`,
      ratio: `${(oursMs / bareMs).toFixed(2)} ×`,
      target: '≤ 3 s, ≤ 1 ×',
      isMet: oursMs <= 3000 && oursMs <= bareMs,
    },
  ]
}
