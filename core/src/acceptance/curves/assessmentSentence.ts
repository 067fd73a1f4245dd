import type { Assessment, AssessmentOptions } from './assessment'
import { pieces } from '../rules/describeSamplingRule'
import type { RiskModel } from './riskModels'
import { percentText, timesIn100 } from './riskSentence'

function rounded(value: number): string {
  return value >= 10 ? Math.round(value).toString() : Number(value.toPrecision(2)).toString()
}

function timeWords(minutes: number): string {
  return minutes < 90 ? `${rounded(minutes)} minutes` : `${rounded(minutes / 60)} hours`
}

/** What a choice lets through and costs, in one or two sentences. */
export function sentenceOf(
  model: RiskModel,
  { goodPercent, poorPercent, limits }: AssessmentOptions,
  known: Pick<Assessment, 'producersRisk' | 'consumersRisk' | 'piecesPerLot' | 'piecesPerMonth' | 'minutesPerMonth' | 'at10'>,
): string {
  const unit =
    model === 'perUnit'
      ? ' nonconformities per 100 units'
      : ` % nonconforming${model === 'variables' && limits === 'two' ? ', half of them beyond each limit,' : ''}`
  const subject = model === 'run' ? 'Of a run' : 'A lot'
  const passes = (share: number) => (share === 0 ? 'never passes' : share === 1 ? 'always passes' : `passes ${timesIn100(share)}`)
  const good =
    model === 'run'
      ? `${subject} with ${percentText(goodPercent)} % nonconforming, ${Math.round(100 * (1 - known.producersRisk))} of 100 units pass under sampling`
      : `${subject} with ${percentText(goodPercent)}${unit} ${passes(1 - known.producersRisk)}`
  const poor =
    model === 'run'
      ? `with ${percentText(poorPercent)} %, ${Math.round(100 * known.consumersRisk)}`
      : `one with ${percentText(poorPercent)}${model === 'perUnit' ? ' per 100' : ' %'} ${passes(known.consumersRisk)}`
  const month = known.piecesPerMonth === null ? '' : `, ${pieces(Math.round(known.piecesPerMonth))} a month`
  const time = known.minutesPerMonth === null ? '' : ` or ${timeWords(known.minutesPerMonth)}`
  return `${good}; ${poor}. On average ${rounded(known.piecesPerLot)} pieces a lot${month}${time}.`
}
