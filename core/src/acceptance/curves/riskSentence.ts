import { acceptanceOfLots } from '../chance/acceptanceProbability'
import { nonconformingAt } from './operatingCurve'
import type { Sample } from '../rules/sampleFor'

export interface Risk {
  /** Quality of a good lot in per cent: the AQL, or where 95 of 100 lots pass. */
  readonly goodPercent: number
  readonly goodAccepted: number
  /** Quality at which one lot in ten still passes (the 10 % point), in per cent. */
  readonly poorPercent: number
  readonly poorAccepted: number
  readonly sentence: string
}

/** Two figures are enough to compare qualities: `0.65`, `4.7`. */
export function percentText(percent: number): string {
  return Number(percent.toPrecision(2)).toString()
}

/** `10 times in 100`; near certainty and near never in words that do not claim them. */
export function timesIn100(share: number): string {
  const times = 100 * share
  // From 99.5 on it would round to a certainty that it is not.
  if (times >= 99.5 && times < 100) return 'more than 99 times in 100'
  if (times < 0.5 && times > 0) return 'less than once in 200'
  return `${Math.round(times)} times in 100`
}

/**
 * What a sampling choice lets through, in one sentence: a lot at the AQL, and a lot at the 10 % point.
 * Without an AQL the first quality is the largest at which at least 95 of 100 lots pass. Hypergeometric, for this lot size.
 * Shape: Sample, lot size, AQL in per cent or null → Risk.
 */
export function riskOf(sample: Pick<Sample, 'sampleSize' | 'accept'>, lotSize: number, aqlPercent: number | null): Risk {
  const passes = acceptanceOfLots(lotSize, sample.sampleSize, sample.accept)
  // Between two whole numbers of nonconforming units the share is drawn straight, as the curve is.
  const passesAt = (percent: number) => {
    const units = (lotSize * percent) / 100
    const whole = Math.floor(units)
    return passes(whole) + (units - whole) * (passes(Math.min(lotSize, whole + 1)) - passes(whole))
  }
  const poor = nonconformingAt(sample, lotSize, 0.1)
  const poorPercent = (100 * poor) / lotSize
  const poorAccepted = passes(poor)
  const goodUnits = nonconformingAt(sample, lotSize, 0.95)
  const good = passes(goodUnits) >= 0.95 ? goodUnits : goodUnits - 1
  const goodPercent = aqlPercent ?? (100 * good) / lotSize
  const goodAccepted = passesAt(goodPercent)
  const opening =
    aqlPercent === null && good === 0
      ? 'Only a lot without a single nonconforming piece passes at least 95 times in 100.'
      : `A lot with ${percentText(goodPercent)} % nonconforming passes ${timesIn100(goodAccepted)}.`
  return {
    goodPercent,
    goodAccepted,
    poorPercent,
    poorAccepted,
    sentence: `${opening} A lot with ${percentText(poorPercent)} % ${poorAccepted === 0 ? 'never passes' : `still passes ${timesIn100(poorAccepted)}`}.`,
  }
}
