import { usualConsequence } from '@nemawashi/core'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { finishInspection } from './finish'
import { askedKinds } from '../../inspections/gaugeRepository'
import { loadInspectionLines, wantsGauge } from '../../inspections/inspections'
import { recordReadings, type LineCache } from './recordReadings'
import { loadInspectionAt } from '../../inspections/writes'

/** What conforms and what does not, line by line, as somebody says who stands beside the goods. */
interface SpotAnswers {
  readonly version: number
  readonly answers: readonly { readonly lineId: string; readonly isConforming: boolean }[]
}

/**
 * Answers the quick questions of an inspection beside its goods, all of them, and judges it: each answer counts for every piece of the
 * sample. Where single pieces do not conform, it belongs to the bench.
 * @throws {ServerError} `not_on_spot`, `answers_missing`, and as `finishInspection`.
 */
export async function answerOnSpot(work: Work, cache: LineCache, id: string, { version, answers }: SpotAnswers): Promise<void> {
  const current = await loadInspectionAt(work, id, version)
  if ((current.consequence ?? usualConsequence).answeredAt !== 'spot')
    throw new ServerError('not_on_spot', `${current.code} is answered at the bench.`, { inspection: current.code })
  const lines = await loadInspectionLines(work.manager, id)
  const other = lines.find(({ kind }) => kind !== 'judged')
  if (other) throw new ServerError('not_on_spot', `${other.name} is not answered with yes or no.`, { inspection: current.code, line: other.name })
  const kinds = await askedKinds(work.manager)
  const gauged = lines.find((line) => wantsGauge(line, kinds))
  if (gauged)
    throw new ServerError('not_on_spot', `${gauged.name} wants a ${gauged.details.gaugeKind} by name.`, {
      inspection: current.code,
      line: gauged.name,
    })
  const readings = lines.flatMap((line) => {
    const answer = answers.find(({ lineId }) => lineId === line.id)
    if (answer === undefined) {
      if (line.isRequired)
        throw new ServerError('answers_missing', `${line.name} is not answered.`, { missing: [{ line: line.name, blank: line.sampleSize }] })
      return []
    }
    return Array.from({ length: line.sampleSize }, (_, at) => ({
      id: work.newId(),
      lineId: line.id,
      piece: at + 1,
      value: answer.isConforming ? 'O' : 'X',
      typedAt: work.now,
      isConfirmedOutside: false,
      corrects: null,
    }))
  })
  const { version: next } = await recordReadings(work, cache, id, readings)
  const skips = lines
    .filter(({ id: inspectionId }) => !answers.some(({ lineId }) => lineId === inspectionId))
    .map(({ id: lineId }) => ({ lineId, reason: 'not asked on the spot' }))
  await finishInspection(work, id, next, skips)
}
