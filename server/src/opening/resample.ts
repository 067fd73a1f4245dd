import { cellCount, countedOf, plannedMinutes, quantityOfSamplingUnits, ruleUnder, sampleFor, type Sample, type SamplingRule } from '@nemawashi/core'
import { detailsOf } from '../define/library/checkedFields'
import type { Reader } from '../kernel/work/database'
import type { Work } from '../kernel/work/unitOfWork'
import { holdSample } from '../stock/holds/holds'
import { placeFor } from '../stock/putAway/placeFor'
import { holdsOf } from '../stock/ledger/holdRepository'
import { unitOfLot } from '../stock/ledger/repository'
import type { InspectionLineRow, InspectionRow } from '../inspections/entities'
import { schemeOf } from './openInspection'
import { linesWithRules } from '../inspections/lineRepository'
import { piecesLookedAt } from '../inspections/unit'
import { characteristicRevisionRows } from '../define/library/rows'
import { inspectionLineRows } from '../inspections/rows'
import { saveInspection, updateInspectionLine } from '../inspections/writes'

/** A line with the sample that its rule asks of so many pieces; as it is where it has no rule. */
interface Resampled {
  readonly line: InspectionLineRow
  readonly sample: Pick<Sample, 'sampleSize' | 'accept'>
  readonly scheme: InspectionLineRow['scheme']
}

/** What the lines of an inspection would ask of a lot of another size, by the rules and the severity that they were opened with. */
export async function samplesOf(reader: Reader, inspectionId: string, lotSize: number): Promise<Resampled[]> {
  const lines = await inspectionLineRows.list(reader, { inspectionId })
  const rules = new Map((await linesWithRules(reader, inspectionId)).map((line) => [line.lineId, line]))
  return lines.map((line) => {
    const { sampling: stored = null, kind = 'judged' } = rules.get(line.id) ?? {}
    if (stored === null) return { line, sample: line, scheme: line.scheme }
    const rule = JSON.parse(stored) as SamplingRule
    const sample = sampleFor(line.severity === null ? rule : ruleUnder(rule, line.severity.state), lotSize, countedOf(kind))
    return { line, sample, scheme: schemeOf(sample, line.scheme?.shared) }
  })
}

/** Whether nobody has begun with it, so that its samples may still become others. */
export const isUntouched = ({ state, answered }: Pick<InspectionRow, 'state' | 'answered'>) => state === 'toDo' && answered === 0

/** Works the samples of an inspection out anew that nobody has begun with: more, or fewer, pieces came than it was opened for. */
export async function resample(work: Work, current: InspectionRow, lotSize: number): Promise<void> {
  const all = await samplesOf(work.manager, current.id, lotSize)
  let pieces = 0
  const timed = []
  for (const { line, sample, scheme } of all) {
    const { sampleSize, accept } = sample
    await updateInspectionLine(work, line.id, { sampleSize, accept, scheme })
    const revision = await characteristicRevisionRows.load(work.manager, line.characteristicRevisionId)
    const { recording, minutesPerPiece } = detailsOf(revision.details)
    pieces += cellCount({ recording, sampleSize })
    timed.push({ sampleSize, minutesPerPiece })
  }
  const sampleMost = all.length === 0 ? null : Math.max(...all.map(({ sample }) => sample.sampleSize))
  await saveInspection(work, 'samples worked out anew', current, {
    lotSize,
    asked: pieces,
    sampleMost,
    minutes: plannedMinutes(timed),
  })
  await growSample(work, current, sampleMost ?? 0)
}

/** A gate that holds no more than its sample holds as many as that is now. */
async function growSample(work: Work, current: InspectionRow, sampleSize: number): Promise<void> {
  if (current.lotId === null) return
  const quantity = quantityOfSamplingUnits(sampleSize, await unitOfLot(work.manager, current.lotId))
  const [hold] = (await holdsOf(work.manager, current.lotId, current.id)).filter((hold) => hold.quantity !== null)
  if (hold === undefined || quantity <= (hold.quantity ?? 0)) return
  const toPlaceId = current.holdPlaceId ?? (await placeFor(work.manager, 'inspection')).id
  await holdSample(work, current.lotId, current, { ...(await piecesLookedAt(work.manager, current)), quantity, toPlaceId })
}
