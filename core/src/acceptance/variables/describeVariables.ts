import type { VariablesFacts } from './judgeVariables'

const short = (value: number) => Number(value.toPrecision(4)).toString()
const percent = (fraction: number) => `${Number((100 * fraction).toPrecision(3))} %`

/** Mean and spread against the limits: both estimated fractions together, or the nearer limit. Shape: facts → words, without the verdict. */
export function describeVariables({ method, mean, spread, k, lowerIndex, upperIndex, fraction, largest }: VariablesFacts): string {
  const name = method === 's' ? 's' : 'σ'
  const base = `mean ${short(mean)}, ${name} ${short(spread)}`
  if (lowerIndex !== null && upperIndex !== null && fraction !== null && largest !== null)
    return `${base}: ${percent(fraction)} estimated outside, M ${percent(largest)}`
  const index = Math.min(lowerIndex ?? Infinity, upperIndex ?? Infinity)
  return `${base}: ${short(index)} ${name} to the ${index === lowerIndex ? 'lower' : 'upper'} limit, at least ${short(k)} needed`
}
