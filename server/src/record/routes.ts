import { pastOf } from './past'
import { hasHeld, hasHeldAll } from '../stock/repository'
import { inspectionList, lotsLookedAt } from './repository'
import { inspectionLife, inspectionStateWords, may, sayFinding } from '@nemawashi/core'
import { endpoints, type Finding, type InspectionLine, type LineSkip, type Person } from '@nemawashi/contract'
import type { Kernel } from '../kernel/kernel'
import { dayIn } from '../kernel/plantTime'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/serverError'
import { loadAt, saveNext } from '../kernel/versioned'
import { holdLot } from '../stock/holds'
import { adaptLine } from './adapt'
import { assign, putBack, take } from './assignments'
import { facetsOf, planningOf } from './assignmentRepository'
import { cancelInspection } from './cancel'
import { InspectionEntity } from './entities'
import { findingOf, loadInspection, loadInspectionLines, loadReadings } from './inspections'
import { queueFilters, type Asking } from './queueRepository'
import { LineCache, recordReadings } from './recordReadings'

const { record } = endpoints
const words = 'inspection'

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

/** Five days of work, Saturdays and Sundays left out; the first is the one asked for, whatever it is. */
function boardDays(from: string): string[] {
  const days = [from]
  for (const day = new Date(`${from}T12:00:00Z`); days.length < 5;) {
    day.setUTCDate(day.getUTCDate() + 1)
    if (day.getUTCDay() % 6 !== 0) days.push(day.toISOString().slice(0, 10))
  }
  return days
}

export function recordRoutes(routes: Routes, kernel: Kernel): void {
  const cache = new LineCache()
  const { timeZone } = kernel.config
  const asking = (person: Person | null): Asking => ({ personId: person?.id ?? '', now: kernel.clock.now(), timeZone })

  routes.list(record.listInspections, inspectionList, (query, person) => queueFilters(query, asking(person)))
  routes.read(record.getFacets, (reader, { query, person }) => facetsOf(reader, query, queueFilters(query, asking(person)), asking(person)))
  routes.read(record.getPlanning, (reader, { query }) => {
    const today = dayIn(timeZone, kernel.clock.now())
    return planningOf(reader, query, boardDays(query.from ?? today), today)
  })
  routes.change(record.assignInspection, (work, { params, body, person }) => assign(work, params.id, body, person as Person))
  routes.change(record.takeInspection, (work, { params, body, person }) => take(work, params.id, body.isTakingOver, person as Person))
  routes.change(record.putBackInspection, (work, { params, person }) => putBack(work, params.id, person as Person))

  routes.read(endpoints.define.getPast, (reader, { params, query }) => pastOf(reader, params.id, query))
  routes.read(record.getInspection, (reader, { params, query }) => loadInspection(reader, params.id, query.lotId ?? null))

  routes.change(record.recordReadings, (work, { params, body }) => recordReadings(work, cache, params.id, body.readings))

  routes.change(record.finishInspection, async (work, { params, body }) => {
    const current = await loadAt(work, InspectionEntity, words, params.id, body.version)
    if (!may(inspectionLife, 'finish', current.state))
      throw new ServerError('inspection_closed', `${current.code} is ${inspectionStateWords[current.state]} already.`)
    const lines = await loadInspectionLines(work.manager, params.id)
    const readings = await loadReadings(work.manager, params.id)
    const finding = findingOf(lines, readings)
    if (finding.verdict === 'notJudged') {
      const missing = finding.lines
        .filter((line, i) => line.blank > 0 && lines[i]?.isRequired)
        .map((line) => ({ line: line.name, blank: line.blank }))
      throw new ServerError('answers_missing', `${current.code} cannot be judged: ${sayFinding(finding)}.`, { missing })
    }
    const skips = checkedSkips(current.code, lines, finding, body.skips)
    // A failure has a consequence also where it is no gate: what is still there is held, unless the control point says to note it only.
    // What a gate holds of a sample only is held whole.
    const isHolding = await hasHeldAll(work.manager, current.id)
    const isToHold = !isHolding && finding.verdict === 'notAcceptable' && (current.isGate || current.onFailure === 'hold')
    const lotIds = await lotsLookedAt(work.manager, current)
    // A load that is found good before its goods are here leaves nothing to decide.
    const isDone = lotIds.length === 0 && finding.verdict === 'acceptable'
    await saveNext(work, InspectionEntity, words, 'finished', current, {
      state: (isDone ? inspectionLife.decide : inspectionLife.finish).to,
      skips: skips.length > 0 ? skips : null,
      startedAt: current.startedAt ?? work.now,
      startedById: current.startedById ?? work.personId,
      finishedAt: work.now,
      finishedById: work.personId,
      verdict: finding.verdict,
      finding,
    })
    if (isToHold) for (const lotId of lotIds) await holdLot(work, lotId, current)
    await work.happened('inspectionFinished', { inspection: current, lines, readings })
    return loadInspection(work.manager, params.id)
  })

  routes.change(record.reopenInspection, async (work, { params, body }) => {
    const current = await loadAt(work, InspectionEntity, words, params.id, body.version)
    if (current.state === 'decided') throw new ServerError('already_decided', `${current.code} is decided.`)
    if (!may(inspectionLife, 'reopen', current.state)) throw new ServerError('inspection_not_finished', `${current.code} is not finished.`)
    await saveNext(
      work,
      InspectionEntity,
      words,
      'reopened',
      current,
      { state: inspectionLife.reopen.to, finishedAt: null, finishedById: null, verdict: null, finding: null, skips: null },
      body.reason,
    )
    await work.happened('inspectionReopened', { inspection: current })
    return loadInspection(work.manager, params.id)
  })

  routes.change(record.adaptLine, async (work, { params, body }) => {
    await adaptLine(work, params.id, body)
    cache.forget(params.id)
    return loadInspection(work.manager, params.id)
  })

  routes.change(record.cancelInspection, async (work, { params, body, person }) => {
    const current = await loadAt(work, InspectionEntity, words, params.id, body.version)
    if (!may(inspectionLife, 'cancel', current.state))
      throw new ServerError('inspection_closed', `${current.code} is ${inspectionStateWords[current.state]} already.`)
    const isHolding = await hasHeld(work.manager, current.id)
    if (isHolding && !person?.roles.includes('qualityManager')) {
      throw new ServerError('role_missing', `${current.code} holds pieces: a quality manager cancels it.`, { needed: ['qualityManager'] })
    }
    await cancelInspection(work, current, body.reason)
    return loadInspection(work.manager, params.id)
  })
}
