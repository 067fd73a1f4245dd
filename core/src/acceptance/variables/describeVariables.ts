import { fractionBeyond } from './fractionEstimate'
import type { VariablesFacts, VariablesVerdict } from './judgeVariables'

const short = (value: number) => Number(value.toPrecision(4)).toString()
const percent = (fraction: number) => `${Number((100 * fraction).toPrecision(3))} %`

const spreadName = (method: VariablesFacts['method']) => (method === 's' ? 's' : 'σ')

/** Mean and spread against the limits: both estimated fractions together, or the nearer limit. Shape: facts → words, without the verdict. */
export function describeVariables({ method, mean, spread, k, lowerIndex, upperIndex, fraction, largest }: VariablesFacts): string {
  const name = spreadName(method)
  const base = `mean ${short(mean)}, ${name} ${short(spread)}`
  if (lowerIndex !== null && upperIndex !== null && fraction !== null && largest !== null)
    return `${base}: ${percent(fraction)} estimated outside, M ${percent(largest)}`
  const index = Math.min(lowerIndex ?? Infinity, upperIndex ?? Infinity)
  return `${base}: ${short(index)} ${name} to the ${index === lowerIndex ? 'lower' : 'upper'} limit, at least ${short(k)} needed`
}

/**
 * A verdict on values that are not all there yet, with the quality indices, what is estimated beyond each limit, and what is accepted.
 * Shape: verdict, how many values of how many, the unit, decimals of the mean → a sentence.
 */
export function describeVariablesSoFar(judged: VariablesVerdict, count: number, sampleSize: number, unit: string, places: number): string {
  const { method, mean, spread, k, lowerIndex, upperIndex, fraction, largest } = judged
  const side = (name: string, index: number | null, where: string) => {
    if (index === null) return []
    const beyond = fraction === null ? '' : `, ${percent(fractionBeyond(index, count, method))} estimated ${where}`
    return [`${name} ${short(index)}${beyond}`]
  }
  const isByFraction = lowerIndex !== null && upperIndex !== null && fraction !== null && largest !== null
  const limit = isByFraction ? `together ${percent(fraction)}, M ${percent(largest)}` : `k ${short(k)}`
  const measured = `mean ${mean.toFixed(places)}${unit ? ` ${unit}` : ''}, ${spreadName(method)} ${short(spread)}`
  const parts = [...side('QL', lowerIndex, 'below'), ...side('QU', upperIndex, 'above'), limit]
  return `By variables so far, ${count} of ${sampleSize}: ${measured}; ${parts.join('; ')} → these alone would ${judged.isAcceptable ? '' : 'not '}be accepted`
}
