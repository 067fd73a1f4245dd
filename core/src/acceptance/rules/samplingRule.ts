import { CoreError } from '../../errors'
import { aqlIndex, type Counting } from '../tables/attributePlans'
import type { Severity, StageForm } from '../tables/attributeTables'
import { checkRisk, checkTwoPoints, type TwoPoints } from '../chance/checkRisks'
import type { InspectionLevel } from '../tables/codeLetters'
import { checkStages, type Stage } from '../plans/stagedPlan'
import type { CharacteristicKind } from '../../tolerance/answers'
import type { CountModel } from '../design/twoPointDesign'
import { checkVariablesPlan, type VariablesMethod } from '../variables/variablesAcceptance'
import { variablesPlanFor, type VariablesLevel } from '../tables/variablesTables'

export const roundings = ['up', 'nearest', 'down'] as const
export type Rounding = (typeof roundings)[number]

export const switchings = ['withoutReduced', 'withReduced'] as const
/** Reduced inspection wants steady production and the consent of the person in charge: it is allowed, or not. MIL-STD-105E, 4.7.3. */
export type Switching = (typeof switchings)[number]

/** How many pieces of a lot are looked at, and how many nonconforming ones are accepted. Percentages 0–100, risks 0–1. */
export type SamplingRule =
  | { readonly kind: 'everyPiece'; readonly accept: number }
  | { readonly kind: 'fixedNumber'; readonly sampleSize: number; readonly accept: number }
  | { readonly kind: 'percentage'; readonly percent: number; readonly rounding: Rounding; readonly accept: number }
  | { readonly kind: 'squareRoot'; readonly accept: number }
  | { readonly kind: 'positions'; readonly first: number; readonly last: number; readonly every: number | null; readonly accept: number }
  | {
      readonly kind: 'attributesScheme'
      readonly level: InspectionLevel
      readonly aqlPercent: number
      /** Normal, single and nonconforming where nothing is said. */
      readonly severity?: Severity | undefined
      readonly form?: StageForm | undefined
      readonly counting?: Counting | undefined
      /** The severity follows the history by itself, from the one that is stated; stays where nothing is said. */
      readonly switching?: Switching | undefined
    }
  | { readonly kind: 'stages'; readonly stages: readonly Stage[] }
  | { readonly kind: 'zeroAcceptance'; readonly limitingPercent: number; readonly consumersRisk: number }
  | ({ readonly kind: 'twoPoints'; readonly model: CountModel } & PercentPoints)
  | {
      readonly kind: 'variablesScheme'
      readonly level: VariablesLevel
      readonly aqlPercent: number
      readonly severity: 'normal' | 'tightened'
    }
  | {
      readonly kind: 'variablesPlan'
      readonly method: VariablesMethod
      readonly sampleSize: number
      readonly k: number
      readonly sigma: number | null
    }
  | ({ readonly kind: 'variablesTwoPoints'; readonly method: VariablesMethod; readonly sigma: number | null } & PercentPoints)

export interface PercentPoints {
  readonly goodPercent: number
  readonly producersRisk: number
  readonly poorPercent: number
  readonly consumersRisk: number
}

/**
 * What a plain sample of a characteristic counts: of one whose nonconformities are counted on each unit the nonconformities, of every other the
 * nonconforming pieces. A scheme says itself which it counts. ISO 2859-1, 3.1 (both are items of its plans).
 */
export function countedOf(kind: CharacteristicKind): Counting {
  return kind === 'counted' ? 'nonconformities' : 'nonconforming'
}

const byVariables: ReadonlySet<SamplingRule['kind']> = new Set(['variablesScheme', 'variablesPlan', 'variablesTwoPoints'])

/** Whether a rule can be asked of a characteristic of this kind: by variables only what is measured is judged. */
export function suitsKind(rule: Pick<SamplingRule, 'kind'>, kind: CharacteristicKind): boolean {
  return kind === 'measured' || !byVariables.has(rule.kind)
}

/** @throws {CoreError} `not_measured` where a rule by variables stands on what has no values. */
export function requireSuits(rule: SamplingRule, kind: CharacteristicKind, name: string): void {
  if (suitsKind(rule, kind)) return
  throw new CoreError('not_measured', `${name} is ${kind}: it has no values that a plan by variables could judge.`, {
    received: rule.kind,
    field: 'sampling',
  })
}

/**
 * Refuses a rule that could never be carried out, whatever the lot.
 * @param counted what a plain sample counts: nonconformities may exceed the pieces
 * @throws {CoreError} `sample_size_invalid`, `percent_invalid`, `acceptance_number_invalid`, `aql_not_in_series`.
 */
export function checkSamplingRule(rule: SamplingRule, counted: Counting = 'nonconforming'): void {
  switch (rule.kind) {
    case 'attributesScheme':
      aqlIndex(rule.aqlPercent, rule.counting ?? 'nonconforming')
      return
    case 'stages':
      checkStages(rule.stages)
      return
    case 'zeroAcceptance':
      checkPercent(rule.limitingPercent, 'limitingPercent')
      checkRisk("consumer's risk", rule.consumersRisk, 'consumersRisk')
      return
    case 'twoPoints':
      checkTwoPoints(fractionsOf(rule), rule.model === 'perUnit')
      return
    case 'variablesScheme':
      variablesPlanFor('B', rule.aqlPercent, rule.severity)
      return
    case 'variablesPlan':
      checkVariablesPlan(rule.sampleSize, rule.k, rule.method)
      checkSigma(rule)
      return
    case 'variablesTwoPoints':
      checkTwoPoints(fractionsOf(rule))
      checkSigma(rule)
      return
    case 'fixedNumber':
      checkWhole(rule.sampleSize, 1, 'sample_size_invalid', 'a sample size', 'sampleSize')
      checkWhole(rule.accept, 0, 'acceptance_number_invalid', 'an acceptance number', 'accept')
      if (counted === 'nonconforming') checkAcceptance(rule.accept, rule.sampleSize)
      return
    case 'percentage':
      checkPercent(rule.percent, 'percent')
      checkWhole(rule.accept, 0, 'acceptance_number_invalid', 'an acceptance number', 'accept')
      return
    case 'positions':
      checkPositions(rule)
      checkWhole(rule.accept, 0, 'acceptance_number_invalid', 'an acceptance number', 'accept')
      return
    case 'everyPiece':
    case 'squareRoot':
      checkWhole(rule.accept, 0, 'acceptance_number_invalid', 'an acceptance number', 'accept')
  }
}

function checkWhole(value: number, least: number, code: 'sample_size_invalid' | 'acceptance_number_invalid', name: string, field: string): void {
  if (Number.isSafeInteger(value) && value >= least) return
  throw new CoreError(code, `Received ${name} of ${value}. It is a whole number, ${least} or more.`, { received: value, field })
}

function checkPositions({ first, last, every }: SamplingRule & { readonly kind: 'positions' }): void {
  const isWhole =
    [first, last].every((count) => Number.isSafeInteger(count) && count >= 0) && (every === null || (Number.isSafeInteger(every) && every >= 1))
  if (isWhole && (first + last > 0 || every !== null)) return
  throw new CoreError(
    'sample_size_invalid',
    `Received the first ${first}, the last ${last}, every ${every ?? 'none'}. Whole numbers, and at least one piece is looked at.`,
    { received: first + last, field: 'first' },
  )
}

function checkPercent(percent: number, field: string): void {
  if (percent > 0 && percent <= 100) return
  throw new CoreError('percent_invalid', `Received ${percent} %. It is more than 0 and at most 100.`, { received: percent, field })
}

function checkSigma({ method, sigma }: { readonly method: VariablesMethod; readonly sigma: number | null }): void {
  if (method === 's' || (sigma !== null && sigma > 0 && sigma < Infinity)) return
  throw new CoreError('spread_not_positive', `The σ-method needs the known standard deviation; received ${sigma ?? 'none'}. It is greater than 0.`, {
    received: sigma,
    field: 'sigma',
  })
}

/** Points in per cent as fractions. */
export function fractionsOf(points: PercentPoints): TwoPoints {
  const { goodPercent, poorPercent, producersRisk, consumersRisk } = points
  return { goodFraction: goodPercent / 100, poorFraction: poorPercent / 100, producersRisk, consumersRisk }
}

function checkAcceptance(accept: number, sampleSize: number): void {
  if (accept >= sampleSize) {
    throw new CoreError(
      'acceptance_number_invalid',
      `An acceptance number of ${accept} with ${sampleSize} inspected would accept every lot. It is at most ${sampleSize - 1}.`,
      { received: accept, sampleSize, field: 'accept' },
    )
  }
}
