import { CoreError } from '../errors'
import { codeLetterFor, type CodeLetter, type InspectionLevel } from './codeLetters'
import { checkLotSize } from './lotSize'
import { singlePlanFor } from './singlePlans'

export const roundings = ['up', 'nearest', 'down'] as const
export type Rounding = (typeof roundings)[number]

/** How many pieces of a lot are looked at, and how many nonconforming ones are accepted. */
export type SamplingRule =
  | { readonly kind: 'everyPiece'; readonly accept: number }
  | { readonly kind: 'fixedNumber'; readonly sampleSize: number; readonly accept: number }
  | { readonly kind: 'percentage'; readonly percent: number; readonly rounding: Rounding; readonly accept: number }
  | { readonly kind: 'attributesScheme'; readonly level: InspectionLevel; readonly aqlPercent: number }

/** A sampling rule worked out for one lot. */
export interface Sample {
  readonly sampleSize: number
  readonly accept: number
  readonly reject: number
  readonly isEveryPiece: boolean
  readonly codeLetter: CodeLetter | null
  /** The arithmetic in one sentence. */
  readonly reasoning: string
}

/**
 * Refuses a rule that could never be carried out, whatever the lot.
 * @throws {CoreError} `sample_size_invalid`, `percent_invalid`, `acceptance_number_invalid`, `aql_not_in_series`.
 */
export function checkSamplingRule(rule: SamplingRule): void {
  if (rule.kind === 'attributesScheme') {
    singlePlanFor('A', rule.aqlPercent)
    return
  }
  if (!Number.isSafeInteger(rule.accept) || rule.accept < 0) {
    throw new CoreError('acceptance_number_invalid', `Received an acceptance number of ${rule.accept}. It is a whole number, 0 or more.`, {
      received: rule.accept,
      field: 'accept',
    })
  }
  if (rule.kind === 'fixedNumber') {
    if (!Number.isSafeInteger(rule.sampleSize) || rule.sampleSize < 1) {
      throw new CoreError('sample_size_invalid', `Received a sample size of ${rule.sampleSize}. It is a whole number, 1 or more.`, {
        received: rule.sampleSize,
        field: 'sampleSize',
      })
    }
    checkAcceptance(rule.accept, rule.sampleSize)
  }
  if (rule.kind === 'percentage' && !(rule.percent > 0 && rule.percent <= 100)) {
    throw new CoreError('percent_invalid', `Received ${rule.percent} %. It is more than 0 and at most 100.`, {
      received: rule.percent,
      field: 'percent',
    })
  }
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

const round = { up: Math.ceil, nearest: Math.round, down: Math.floor } as const

function plural(count: number): string {
  return count === 1 ? '1 piece' : `${count} pieces`
}

/**
 * Works a sampling rule out for a lot. A sample that reaches the lot means every piece; at least one piece is looked at.
 * On lots so small that the stated acceptance number would accept everything, none is accepted.
 * Shape: SamplingRule, whole lot size → Sample.
 * @throws {CoreError} as `checkSamplingRule`, and `lot_size_invalid`.
 */
export function sampleFor(rule: SamplingRule, lotSize: number): Sample {
  checkLotSize(lotSize)
  checkSamplingRule(rule)
  const { wanted, accept, codeLetter, because } = wantedSample(rule, lotSize)
  const isEveryPiece = wanted >= lotSize
  const sampleSize = Math.min(wanted, lotSize)
  const isAcceptLowered = accept >= sampleSize
  const kept = isAcceptLowered ? 0 : accept
  const short = isEveryPiece && rule.kind !== 'everyPiece' ? ` is the whole lot of ${lotSize}: every piece` : ''
  const lowered = isAcceptLowered && accept > 0 ? ` (${accept} would accept the whole sample)` : ''
  return {
    sampleSize,
    accept: kept,
    reject: kept + 1,
    isEveryPiece,
    codeLetter,
    reasoning: `${because}${short}, accept up to ${kept}${lowered}`,
  }
}

function wantedSample(rule: SamplingRule, lotSize: number) {
  switch (rule.kind) {
    case 'everyPiece':
      return { wanted: lotSize, accept: rule.accept, codeLetter: null, because: `every piece of ${lotSize}` }
    case 'fixedNumber':
      return { wanted: rule.sampleSize, accept: rule.accept, codeLetter: null, because: `always ${plural(rule.sampleSize)}` }
    case 'percentage': {
      // Twelve significant digits take the noise of binary fractions away before rounding: 7 % of 100 is 7, not 7.000000000000001.
      const exact = Number(((lotSize * rule.percent) / 100).toPrecision(12))
      const wanted = Math.max(1, round[rule.rounding](exact))
      const how = Number.isInteger(exact) ? '' : `, rounded ${rule.rounding === 'nearest' ? 'to the nearest' : rule.rounding}`
      return { wanted, accept: rule.accept, codeLetter: null, because: `${rule.percent} % of ${lotSize} is ${exact}${how}: ${plural(wanted)}` }
    }
    case 'attributesScheme': {
      const letter = codeLetterFor(lotSize, rule.level)
      const plan = singlePlanFor(letter, rule.aqlPercent)
      const arrow = plan.arrowFrom === null ? '' : `, arrow to ${plan.codeLetter}`
      return {
        wanted: plan.sampleSize,
        accept: plan.accept,
        codeLetter: plan.codeLetter,
        because: `lot ${lotSize}, level ${rule.level} → letter ${letter}${arrow}; AQL ${rule.aqlPercent} % → ${plural(plan.sampleSize)}`,
      }
    }
  }
}

/** The rule in words, without a lot: `MIL-STD-105E, level II, AQL 0.65 %`. */
export function describeSamplingRule(rule: SamplingRule): string {
  switch (rule.kind) {
    case 'everyPiece':
      return `every piece, accept up to ${rule.accept}`
    case 'fixedNumber':
      return `${plural(rule.sampleSize)}, accept up to ${rule.accept}`
    case 'percentage':
      return `${rule.percent} % of the lot, rounded ${rule.rounding === 'nearest' ? 'to the nearest' : rule.rounding}, accept up to ${rule.accept}`
    case 'attributesScheme':
      return `MIL-STD-105E, level ${rule.level}, AQL ${rule.aqlPercent} %`
  }
}
