import Big from 'big.js'
import { CoreError } from '../errors'
import { compareDecimal, type Decimal } from './decimal'
import type { Limits } from './limits'

export const bandBases = ['nominal', 'limit', 'width'] as const

/** How wide the band is: an amount in the characteristic's unit, or a percentage of a stated base. */
export type BandWidth =
  | { readonly kind: 'amount'; readonly amount: Decimal }
  | { readonly kind: 'percentage'; readonly percent: Decimal; readonly base: (typeof bandBases)[number] }

/**
 * A band at each limit in which a reading is marginal. Inside the limits it is a guard band for measurement uncertainty (ISO 14253-1);
 * outside them an excess that is let pass.
 */
export interface MarginalBand {
  readonly side: 'inside' | 'outside'
  readonly width: BandWidth
  /** Does a marginal reading count as conforming in the finding? */
  readonly countsAsConforming: boolean
}

/** Edges of the zones: within inner conforming, up to outer marginal, beyond it nonconforming. Null where the side is open. */
export interface BandEdges {
  readonly innerLower: Decimal | null
  readonly innerUpper: Decimal | null
  readonly outerLower: Decimal | null
  readonly outerUpper: Decimal | null
}

function invalid(message: string, facts: Record<string, unknown>): CoreError {
  return new CoreError('band_invalid', message, { ...facts, field: 'band' })
}

function widthAt(limit: Decimal, limits: Limits, width: BandWidth): Big {
  if (width.kind === 'amount') return new Big(width.amount)
  const base = {
    nominal: limits.nominal,
    limit,
    width: limits.lower === null || limits.upper === null ? null : new Big(limits.upper).minus(limits.lower).toFixed(),
  }[width.base]
  if (base === null) {
    const what = width.base === 'nominal' ? 'a nominal value' : 'both limits'
    throw invalid(
      `${width.percent} % of the ${width.base === 'nominal' ? 'nominal' : 'tolerance width'} needs ${what}. Give it, or state the band as an amount.`,
      { base: width.base },
    )
  }
  return new Big(base).abs().times(width.percent).div(100)
}

/**
 * Where the band lies. Decimal, no rounding.
 * Shape: Limits, MarginalBand → BandEdges.
 * Source: ISO 14253-1 for bands inside the limits; common practice for those outside.
 * @throws {CoreError} `band_invalid` (width not positive, base missing, inside bands that meet or cross).
 */
export function bandEdges(limits: Limits, band: MarginalBand): BandEdges {
  const stated = band.width.kind === 'amount' ? band.width.amount : band.width.percent
  if (compareDecimal(stated, '0') <= 0)
    throw invalid(`Received a band of ${stated}. It is greater than 0; leave it out when there is none.`, { received: stated })
  const inward = band.side === 'inside'
  const edge = (limit: Decimal | null, sign: 1 | -1) =>
    limit === null ? null : new Big(limit).plus(widthAt(limit, limits, band.width).times(inward ? sign : -sign)).toFixed()
  const lowerEdge = edge(limits.lower, 1)
  const upperEdge = edge(limits.upper, -1)
  if (inward && lowerEdge !== null && upperEdge !== null && compareDecimal(lowerEdge, upperEdge) > 0) {
    throw invalid(`The band leaves nothing between ${lowerEdge} and ${upperEdge}. Make it narrower.`, {
      innerLower: lowerEdge,
      innerUpper: upperEdge,
    })
  }
  return inward
    ? { innerLower: lowerEdge, innerUpper: upperEdge, outerLower: limits.lower, outerUpper: limits.upper }
    : { innerLower: limits.lower, innerUpper: limits.upper, outerLower: lowerEdge, outerUpper: upperEdge }
}

function span(lower: Decimal | null, upper: Decimal | null): string {
  if (lower !== null && upper !== null) return `from ${lower} to ${upper}`
  return lower !== null ? `${lower} or more` : `up to ${upper}`
}

/** What counts as what, in full: `Conforms from 0.27 to 0.33; marginal up to 0.25 and 0.35, counted as conforming; nonconforming beyond.` */
export function bandWords(limits: Limits, band: MarginalBand | null, unit: string): string {
  if (band === null) return `Conforms ${span(limits.lower, limits.upper)} ${unit}, limits included; nonconforming beyond.`
  const edges = bandEdges(limits, band)
  const outer = [edges.outerLower, edges.outerUpper].filter((value) => value !== null).join(' and ')
  const counted = band.countsAsConforming ? 'counted as conforming' : 'counted as nonconforming'
  return `Conforms ${span(edges.innerLower, edges.innerUpper)} ${unit}, edges included; marginal (△) beyond that as far as ${outer} ${unit}, ${counted}; nonconforming beyond.`
}
