import type { PercentPoints, SamplingRule } from './samplingRule'
import type { Stage } from '../plans/stagedPlan'

/** `1 piece`, `20 pieces`. */
export function pieces(count: number): string {
  return count === 1 ? '1 piece' : `${count} pieces`
}

function ordinal(n: number): string {
  const ending = n % 100 > 10 && n % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')
  return `${n}${ending}`
}

/** `20 pieces: accept 0, Re 2; then 20: accept 1, Re 2`. */
export function stageWords(stages: readonly Stage[]): string {
  return stages
    .map(({ sampleSize, accept, reject }, i) => {
      const size = i === 0 ? pieces(sampleSize) : `then ${sampleSize}`
      return `${size}: ${accept === null ? 'accept none yet' : `accept ${accept}`}, Re ${reject}`
    })
    .join('; ')
}

/** `5 in 100`. */
export function timesWords(share: number): string {
  return `${Number((100 * share).toPrecision(6))} in 100`
}

/** `the first 3, every 10th, the last piece`. */
export function positionWords({ first, last, every }: SamplingRule & { readonly kind: 'positions' }): string {
  const parts = [
    first > 0 ? `the first ${first === 1 ? 'piece' : first}` : '',
    every === null ? '' : `every ${ordinal(every)}`,
    last > 0 ? `the last ${last === 1 ? 'piece' : last}` : '',
  ]
  return parts.filter((part) => part !== '').join(', ')
}

/** The rule in words, without a lot: `MIL-STD-105E, level II, AQL 0.65 %`. */
export function describeSamplingRule(rule: SamplingRule): string {
  const points = (twoPoints: PercentPoints) =>
    `${twoPoints.goodPercent} % passes ${timesWords(1 - twoPoints.producersRisk)}, ${twoPoints.poorPercent} % ${timesWords(twoPoints.consumersRisk)}`
  switch (rule.kind) {
    case 'everyPiece':
      return `every piece, Ac ${rule.accept}`
    case 'fixedNumber':
      return `${pieces(rule.sampleSize)}, Ac ${rule.accept}`
    case 'percentage':
      return `${rule.percent} % of the lot, rounded ${rule.rounding === 'nearest' ? 'to the nearest' : rule.rounding}, Ac ${rule.accept}`
    case 'squareRoot':
      return `square root of the lot plus one, Ac ${rule.accept}`
    case 'positions':
      return `${positionWords(rule)}, Ac ${rule.accept}`
    case 'attributesScheme': {
      const per = rule.counting === 'nonconformities' ? ' per 100 units' : ' %'
      const more: (string | undefined)[] = [rule.form, rule.severity].filter((word) => word !== undefined && word !== 'single' && word !== 'normal')
      if (rule.switching) more.push(rule.switching === 'withReduced' ? 'switching by history' : 'switching by history, never reduced')
      return `MIL-STD-105E, level ${rule.level}, AQL ${rule.aqlPercent}${per}${more.map((word) => `, ${word}`).join('')}`
    }
    case 'stages':
      return stageWords(rule.stages)
    case 'zeroAcceptance':
      return `none accepted; ${rule.limitingPercent} % passes at most ${timesWords(rule.consumersRisk)}`
    case 'twoPoints':
      return `designed: ${points(rule)}`
    case 'variablesScheme':
      return `MIL-STD-414, level ${rule.level}, AQL ${rule.aqlPercent} %, s-method${rule.severity === 'normal' ? '' : ', tightened'}`
    case 'variablesPlan':
      return `${pieces(rule.sampleSize)}, mean ${rule.k} ${rule.method === 's' ? 's' : 'σ'} inside the limits`
    case 'variablesTwoPoints':
      return `designed by variables (${rule.method === 's' ? 's' : 'σ'}): ${points(rule)}`
  }
}
