import { CoreError } from '../../errors'
import { attributePlanFor, type Counting } from '../tables/attributePlans'
import { codeLetterFor } from '../tables/codeLetters'
import { pieces, positionWords, stageWords, timesWords } from './describeSamplingRule'
import type { VariablesPlan } from '../variables/judgeVariables'
import { checkLotSize } from '../../numeric/lotSize'
import { checkSamplingRule, fractionsOf, type SamplingRule } from './samplingRule'
import { singleStage, type Stage } from '../plans/stagedPlan'
import { twoPointDesign, twoPointDesignInLot, type DesignedPlan } from '../design/twoPointDesign'
import { variablesDesign, type VariablesDesign } from '../variables/variablesDesign'
import { variablesLetterFor, variablesPlanFor } from '../tables/variablesTables'
import { limitingUnits, zeroAcceptanceSize } from '../design/zeroAcceptance'

/** A sampling rule worked out for one lot. */
export interface Sample {
  /** Pieces looked at, all stages together. */
  readonly sampleSize: number
  /** Acceptance and rejection number of the last stage. */
  readonly accept: number
  readonly reject: number
  readonly isEveryPiece: boolean
  readonly codeLetter: string | null
  /** Stages of the plan; one for single sampling. */
  readonly stages: readonly Stage[]
  /** Set when the mean and the standard deviation decide; the counts are then not used. */
  readonly variables: VariablesPlan | null
  /** What is counted: nonconforming pieces, or nonconformities on them. */
  readonly counting: Counting
  /** The arithmetic in one sentence. */
  readonly reasoning: string
}

const round = { up: Math.ceil, nearest: Math.round, down: Math.floor } as const

/**
 * Works a sampling rule out for a lot. A sample that reaches the lot means every piece; at least one piece is looked at.
 * On lots so small that the stated acceptance number would accept everything, none is accepted.
 * Shape: SamplingRule, whole lot size → Sample.
 * @param plain what a sample counts whose rule does not say it; see `countedOf`
 * @throws {CoreError} as `checkSamplingRule`, and `lot_size_invalid`.
 */
export function sampleFor(rule: SamplingRule, lotSize: number, plain: Counting = 'nonconforming'): Sample {
  checkLotSize(lotSize)
  checkSamplingRule(rule, plain)
  const { because, ...wanted } = wantedSample(rule, lotSize)
  const total = wanted.stages.reduce((sum, stage) => sum + stage.sampleSize, 0)
  const isEveryPiece = total >= lotSize
  const short = isEveryPiece && rule.kind !== 'everyPiece' ? ` is the whole lot of ${lotSize}: every piece` : ''
  const last = wanted.stages.at(-1) as Stage
  const base = { isEveryPiece, codeLetter: wanted.codeLetter, variables: null, counting: wanted.counting ?? plain }
  if (wanted.variables) {
    // A lot smaller than the sample is measured whole, and then its pieces are counted.
    if (isEveryPiece) return counted({ ...base, ...single(lotSize, 0) }, `${because}${short}, Ac 0`)
    return { ...base, ...single(total, 0), variables: wanted.variables, reasoning: because }
  }
  if (wanted.stages.length > 1 && !isEveryPiece) {
    return counted(
      { ...base, stages: wanted.stages, sampleSize: total, accept: last.accept ?? 0, reject: last.reject },
      `${because}; ${stageWords(wanted.stages)}`,
    )
  }
  const sampleSize = Math.min(total, lotSize)
  const accept = last.accept ?? 0
  // Nonconformities may exceed the pieces; a count of nonconforming pieces that reaches the sample would pass every lot.
  const isLowered = accept >= sampleSize && base.counting === 'nonconforming'
  const kept = isLowered ? 0 : accept
  const reject = isLowered ? 1 : last.reject
  const lowered = isLowered && accept > 0 ? ` (${accept} would accept the whole sample)` : ''
  const gap = reject > kept + 1 ? `, Re ${reject}` : ''
  return counted(
    { ...base, stages: [{ sampleSize, accept: kept, reject }], sampleSize, accept: kept, reject },
    `${because}${short}, Ac ${kept}${lowered}${gap}`,
  )
}

function single(sampleSize: number, accept: number) {
  return { stages: singleStage(sampleSize, accept), sampleSize, accept, reject: accept + 1 }
}

function counted(sample: Omit<Sample, 'reasoning'>, reasoning: string): Sample {
  return { ...sample, reasoning }
}

type Positions = SamplingRule & { readonly kind: 'positions' }

/** How many pieces a rule of positions looks at, without making the list. Shape: rule, N → 0..N. */
export function positionCount({ first, last, every }: Positions, lotSize: number): number {
  const head = Math.min(first, lotSize)
  const tail = Math.max(head, lotSize - last)
  const upTo = (end: number) => (every === null ? 0 : Math.floor(end / every))
  return head + (lotSize - tail) + upTo(tail) - upTo(head)
}

/** More places than this are a share of the lot and not a list. */
const maxPlaces = 100_000

/**
 * Places of the pieces looked at, from 1: the first, the last and every k-th between. Shape: rising whole numbers in 1..N.
 * @throws {CoreError} as `checkSamplingRule`, `lot_size_invalid`, `sample_size_invalid` (more than 100,000 places).
 */
export function piecePositions(rule: Positions, lotSize: number): number[] {
  checkLotSize(lotSize)
  checkSamplingRule(rule)
  const count = positionCount(rule, lotSize)
  if (count > maxPlaces)
    throw new CoreError(
      'sample_size_invalid',
      `The rule names ${count} places, a list has at most ${maxPlaces}. Look at fewer, or choose a share of the lot.`,
      {
        received: count,
        most: maxPlaces,
        field: 'every',
      },
    )
  const places = new Set<number>()
  for (let i = 1; i <= Math.min(rule.first, lotSize); i++) places.add(i)
  if (rule.every !== null) for (let i = rule.every; i <= lotSize; i += rule.every) places.add(i)
  for (let i = Math.max(1, lotSize - rule.last + 1); i <= lotSize; i++) places.add(i)
  return [...places].sort((a, b) => a - b)
}

interface Wanted {
  readonly stages: readonly Stage[]
  readonly codeLetter: string | null
  readonly counting?: Counting
  readonly variables?: VariablesPlan
  readonly because: string
}

function wantedSample(rule: SamplingRule, lotSize: number): Wanted {
  const simple = (wanted: number, accept: number, because: string): Wanted => ({ ...single(wanted, accept), codeLetter: null, because })
  switch (rule.kind) {
    case 'everyPiece':
      return simple(lotSize, rule.accept, lotSize === 1 ? 'the one that there is' : `every piece of ${lotSize}`)
    case 'fixedNumber':
      return simple(rule.sampleSize, rule.accept, `always ${pieces(rule.sampleSize)}`)
    case 'percentage': {
      // Twelve significant digits take the noise of binary fractions away before rounding: 7 % of 100 is 7, not 7.000000000000001.
      const exact = Number(((lotSize * rule.percent) / 100).toPrecision(12))
      const wanted = Math.max(1, round[rule.rounding](exact))
      const how = Number.isInteger(exact) ? '' : `, rounded ${rule.rounding === 'nearest' ? 'to the nearest' : rule.rounding}`
      return simple(wanted, rule.accept, `${rule.percent} % of ${lotSize} is ${exact}${how}: ${pieces(wanted)}`)
    }
    case 'squareRoot': {
      const wanted = Math.ceil(Math.sqrt(lotSize)) + 1
      return simple(wanted, rule.accept, `√${lotSize} rounded up, plus 1: ${pieces(wanted)}`)
    }
    case 'positions': {
      const wanted = Math.max(1, positionCount(rule, lotSize))
      return simple(wanted, rule.accept, `${positionWords(rule)} of ${lotSize}: ${pieces(wanted)}`)
    }
    case 'attributesScheme': {
      const letter = codeLetterFor(lotSize, rule.level)
      const plan = attributePlanFor(letter, rule.aqlPercent, rule.severity, rule.form, rule.counting)
      const arrow = plan.arrowFrom === null ? '' : `, arrow to ${plan.codeLetter}`
      const per = rule.counting === 'nonconformities' ? ' per 100 units' : ' %'
      const severity = rule.severity === undefined || rule.severity === 'normal' ? '' : `, ${rule.severity}`
      const size = plan.stages.length > 1 ? `${plan.form} sampling` : pieces((plan.stages[0] as Stage).sampleSize)
      const because = `lot ${lotSize}, level ${rule.level} → letter ${letter}${arrow}; AQL ${rule.aqlPercent}${per}${severity} → ${size}`
      return { stages: plan.stages, codeLetter: plan.codeLetter, counting: rule.counting ?? 'nonconforming', because }
    }
    case 'stages':
      return { stages: rule.stages, codeLetter: null, because: rule.stages.length > 1 ? `${rule.stages.length} stages` : 'one stage' }
    case 'zeroAcceptance': {
      const units = limitingUnits(lotSize, rule.limitingPercent)
      const wanted = zeroAcceptanceSize(lotSize, units, rule.consumersRisk)
      return simple(wanted, 0, `a lot of ${lotSize} with ${units} nonconforming passes at most ${timesWords(rule.consumersRisk)} → ${pieces(wanted)}`)
    }
    case 'twoPoints': {
      const plan = designFor(rule, lotSize)
      const because = `${rule.goodPercent} % passes at least ${timesWords(1 - rule.producersRisk)}, ${rule.poorPercent} % at most ${timesWords(rule.consumersRisk)} → ${pieces(plan.sampleSize)}`
      return { ...simple(plan.sampleSize, plan.accept, because), counting: rule.model === 'perUnit' ? 'nonconformities' : 'nonconforming' }
    }
    case 'variablesScheme': {
      const letter = variablesLetterFor(lotSize, rule.level)
      const plan = variablesPlanFor(letter, rule.aqlPercent, rule.severity)
      const arrow = plan.arrowFrom === null ? '' : `, arrow to ${plan.codeLetter}`
      const because = `lot ${lotSize}, level ${rule.level} → letter ${letter}${arrow}; AQL ${rule.aqlPercent} %, ${rule.severity} → ${pieces(plan.sampleSize)}, mean at least ${plan.k} s inside the limit`
      return byVariables({ method: 's', sampleSize: plan.sampleSize, k: plan.k, sigma: null }, because, plan.codeLetter)
    }
    case 'variablesPlan':
      return byVariables(rule, `${pieces(rule.sampleSize)}, mean at least ${rule.k} ${rule.method === 's' ? 's' : 'σ'} inside the limit`)
    case 'variablesTwoPoints': {
      const { sampleSize, k } = variablesDesignFor(rule)
      const shown = Number(k.toFixed(4))
      const because = `${rule.goodPercent} % passes at least ${timesWords(1 - rule.producersRisk)}, ${rule.poorPercent} % at most ${timesWords(rule.consumersRisk)} → ${pieces(sampleSize)}, mean at least ${shown} ${rule.method === 's' ? 's' : 'σ'} inside the limit`
      return byVariables({ method: rule.method, sampleSize, k, sigma: rule.sigma }, because)
    }
  }
}

function byVariables({ method, sampleSize, k, sigma }: VariablesPlan, because: string, codeLetter: string | null = null): Wanted {
  return { stages: singleStage(sampleSize, 0), codeLetter, variables: { method, sampleSize, k, sigma }, because }
}

/** A design depends on its points alone (and the lot, for the lot's model): the last few are kept, as curves ask for the same again. */
const designs = new Map<string, unknown>()
function remembered<T>(key: string, make: () => T): T {
  if (!designs.has(key)) {
    if (designs.size > 200) designs.clear()
    designs.set(key, make())
  }
  return designs.get(key) as T
}

/** Nonconforming units of a lot of the good quality: whole units, the noise of binary fractions taken away first (2.8 % of 500 is 14). */
function goodUnits(lotSize: number, percent: number): number {
  return Math.floor(Number(((lotSize * percent) / 100).toPrecision(12)))
}

/** The smallest plan for the two points, worked out once. */
export function designFor(rule: SamplingRule & { readonly kind: 'twoPoints' }, lotSize: number): DesignedPlan {
  const points = fractionsOf(rule)
  const isLot = rule.model === 'lot'
  return remembered(JSON.stringify([rule.model, points, isLot ? lotSize : 0]), () =>
    rule.model === 'lot'
      ? twoPointDesignInLot(lotSize, goodUnits(lotSize, rule.goodPercent), limitingUnits(lotSize, rule.poorPercent), rule)
      : twoPointDesign(points, rule.model),
  )
}

/** The smallest variables plan for the two points, worked out once. */
export function variablesDesignFor(rule: SamplingRule & { readonly kind: 'variablesTwoPoints' }): VariablesDesign {
  return remembered(JSON.stringify([rule.method, fractionsOf(rule)]), () => variablesDesign(fractionsOf(rule), rule.method))
}
