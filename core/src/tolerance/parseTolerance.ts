import { CoreError } from '../errors'
import { addDecimal, parseDecimal, subtractDecimal, type Decimal } from './decimal'
import type { Limits } from './limits'

const number = String.raw`[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)`
const pattern = (text: string) => new RegExp(`^${text.replaceAll('#', `(${number})`)}$`, 'i')

const symmetric = pattern(String.raw`#\s*(?:±|\+\/?-)\s*#`)
const twoDeviations = pattern(String.raw`#\s+#\s*[/ ]\s*#`)
const between = pattern(String.raw`#\s*(?:to|…|\.\.\.?|–)\s*#`)
const atLeast = pattern(String.raw`(?:≥|>=|min\.?|at least|from)\s*#`)
const atMost = pattern(String.raw`(?:≤|<=|max\.?|at most|up to)\s*#`)

function found(match: RegExpExecArray, group: number): Decimal {
  return parseDecimal(match[group] ?? '')
}

/**
 * Reads a tolerance as it stands on a drawing: `0.3 ± 0.05`, `8 +0.02/-0.01`, `0.25 to 0.35`, `≥ 145`, `≤ 0.8`.
 * Arithmetic is decimal: 0.3 ± 0.05 gives 0.25 and 0.35 exactly. The order of the limits is not judged here, see `checkLimits`.
 * @throws {CoreError} `tolerance_not_understood`, `number_too_long`.
 */
export function parseTolerance(text: string): Limits {
  const typed = text.trim().replaceAll('−', '-')
  let match = symmetric.exec(typed)
  if (match) {
    const nominal = found(match, 1)
    const deviation = found(match, 2)
    return { nominal, lower: subtractDecimal(nominal, deviation), upper: addDecimal(nominal, deviation) }
  }
  match = between.exec(typed)
  if (match) return { nominal: null, lower: found(match, 1), upper: found(match, 2) }
  match = atLeast.exec(typed)
  if (match) return { nominal: null, lower: found(match, 1), upper: null }
  match = atMost.exec(typed)
  if (match) return { nominal: null, lower: null, upper: found(match, 1) }
  match = twoDeviations.exec(typed)
  if (match) {
    const nominal = found(match, 1)
    return { nominal, upper: addDecimal(nominal, found(match, 2)), lower: addDecimal(nominal, found(match, 3)) }
  }
  throw new CoreError('tolerance_not_understood', `Received "${typed}". Write it like 0.3 ± 0.05, 8 +0.02/-0.01, 0.25 to 0.35, ≥ 145 or ≤ 0.8.`, {
    received: typed,
  })
}
