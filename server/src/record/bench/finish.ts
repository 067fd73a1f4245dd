import { freesItself, inspectionTransitions, inspectionStateWords, canTransition, describeFinding, quantityOfSamplingUnits } from '@nemawashi/core'
import { nonconformingPieces, type Finding, type InspectionLine, type LineSkip } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { holdLot, holdSample } from '../../stock/holds/holds'
import { placeFor } from '../../stock/putAway/placeFor'
import { hasHeld, hasHeldAll } from '../../stock/ledger/holdRepository'
import { unitOfLot } from '../../stock/ledger/repository'
import type { InspectionRow } from '../../inspections/entities'
import { consequenceFrom, findingOf, loadInspectionLines, loadReadings } from '../../inspections/inspections'
import { lotsLookedAt } from '../../inspections/repository'
import { piecesLookedAt } from '../../inspections/unit'
import { holdMade } from './holdMade'
import { loadInspectionAt, saveInspection } from '../../inspections/writes'

/** The reasons that count: one for each line with a blank, none for a line that was answered. */
function checkedSkips(code: string, lines: readonly InspectionLine[], finding: Finding, given: readonly LineSkip[]): LineSkip[] {
  const blank = lines.flatMap(({ id, name, isRequired }, i) => {
    const left = finding.lines[i]?.blank ?? 0
    return !isRequired && left > 0 ? [{ lineId: id, line: name, blank: left }] : []
  })
  const unexplained = blank.filter(({ lineId }) => !given.some((skip) => skip.lineId === lineId))
  if (unexplained.length > 0) {
    throw new ServerError('skip_reason_missing', `${code}: ${unexplained.map(({ line }) => line).join(', ')} left blank without a reason.`, {
      skipped: unexplained,
    })
  }
  return given.filter((skip) => blank.some(({ lineId }) => lineId === skip.lineId))
}

/** Where pieces of it are set aside: its hold place, or the plant's place for inspections. */
async function bayOf(work: Work, { holdPlaceId }: InspectionRow): Promise<string> {
  return holdPlaceId ?? (await placeFor(work.manager, 'inspection')).id
}

/**
 * Judges an inspection from its readings. A failure has a consequence also where it is no gate: what is still there is held, unless the
 * control point says to note it only; what a gate holds of a sample only is held whole. What conforms waits for a decision, unless the
 * control point says that the finding frees it. Nonconforming pieces that are set aside wait for one in any case.
 * @throws {ServerError} `stale_version`, `inspection_closed`, `answers_missing`, `skip_reason_missing`.
 */
export async function finishInspection(work: Work, id: string, version: number, given: readonly LineSkip[]): Promise<void> {
  const current = await loadInspectionAt(work, id, version)
  if (!canTransition(inspectionTransitions, 'finish', current.state))
    throw new ServerError('inspection_closed', `${current.code} is ${inspectionStateWords[current.state]} already.`)
  const lines = await loadInspectionLines(work.manager, id)
  const readings = await loadReadings(work.manager, id)
  const finding = findingOf(lines, readings)
  const { verdict } = finding
  if (verdict === 'notJudged') {
    const missing = finding.lines.filter((line, i) => line.blank > 0 && lines[i]?.isRequired).map((line) => ({ line: line.name, blank: line.blank }))
    throw new ServerError('answers_missing', `${current.code} cannot be judged: ${describeFinding(finding)}.`, { missing })
  }
  const skips = checkedSkips(current.code, lines, finding, given)
  const isHolding = await hasHeldAll(work.manager, current.id)
  const isToHold = !isHolding && verdict === 'notAcceptable' && (current.isGate || current.onFailure === 'hold')
  const lotIds = await lotsLookedAt(work.manager, current)
  const follows = consequenceFrom(current.consequence)
  const setAside = follows.setsAside ? nonconformingPieces(lines, readings) : 0
  const isFreeing = freesItself(follows, verdict, { skips: skips.length, setAside })
  // A load without goods that is found good, or whose failure is only noted, leaves nothing to decide.
  const isNoted = verdict === 'acceptable' || (!current.isGate && current.onFailure === 'note')
  const isDone = isFreeing || (lotIds.length === 0 && isNoted)
  await saveInspection(work, 'finished', current, {
    state: (isDone ? inspectionTransitions.decide : inspectionTransitions.finish).to,
    skips: skips.length > 0 ? skips : null,
    startedAt: current.startedAt ?? work.now,
    startedById: current.startedById ?? work.personId,
    finishedAt: work.now,
    finishedById: work.personId,
    verdict,
    finding,
  })
  const pieces = await piecesLookedAt(work.manager, current)
  if (verdict === 'notAcceptable' && !current.isGate && current.onFailure === 'holdMade') await holdMade(work, current)
  if (isToHold) for (const lotId of lotIds) await holdLot(work, lotId, current, pieces)
  // What is found nonconforming is held also where the lot is not.
  else if (setAside > 0 && current.lotId !== null && !(await hasHeld(work.manager, current.id))) {
    const quantity = quantityOfSamplingUnits(setAside, await unitOfLot(work.manager, current.lotId))
    await holdSample(work, current.lotId, current, { quantity, toPlaceId: await bayOf(work, current), isShared: false, ...pieces })
  }
  await work.emit('inspectionFinished', { inspection: current, lines, readings, verdict })
  // What it asks for in addition holds the pieces by then.
  if (isFreeing) for (const lotId of lotIds) await work.emit('freedByFinding', { lotId, inspection: current })
}
