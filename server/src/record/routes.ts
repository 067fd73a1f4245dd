import { pastOf } from './bench/past'
import { hasHeld } from '../stock/ledger/repository'
import { inspectionList } from '../inspections/repository'
import { inspectionLife, inspectionStateWords, may, workDaysFrom } from '@nemawashi/core'
import { endpoints, type Person } from '@nemawashi/contract'
import type { Kernel } from '../kernel/kernel'
import { dayIn } from '../kernel/database/plantTime'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/base/serverError'
import { loadAt, saveNext } from '../kernel/work/versioned'
import { adaptLine } from './bench/adapt'
import { answerOnSpot } from './bench/answerOnSpot'
import { assign, putBack, take, requireNotTaken } from './planning/assignments'
import { facetsOf, planningOf } from '../inspections/assignmentRepository'
import { cancelInspection } from '../opening/cancel'
import { InspectionEntity } from '../inspections/entities'
import { finishInspection } from './bench/finish'
import { loadInspection } from '../inspections/inspections'
import { openByHand } from '../opening/openByHand'
import { queueFilters, type Asking } from '../inspections/queueRepository'
import { LineCache, recordReadings } from './bench/recordReadings'
import { requireRecorder } from './bench/recorders'
import { seeTold } from './bench/told'
import { toldList, unseenBy } from './bench/toldRepository'

const { record } = endpoints
const words = 'inspection'

/** Days that the planning board shows. */
const boardDays = 5

export function recordRoutes(routes: Routes, kernel: Kernel): void {
  const cache = new LineCache()
  const { timeZone } = kernel.config
  const asking = (person: Person | null): Asking => ({ personId: person?.id ?? '', now: kernel.clock.now(), timeZone })

  routes.list(record.listInspections, inspectionList, (query, person) => queueFilters(query, asking(person)))
  routes.readLong(record.getFacets, (reader, { query, person }) => facetsOf(reader, query, queueFilters(query, asking(person)), asking(person)))
  routes.readLong(record.getPlanning, (reader, { query }) => {
    const today = dayIn(timeZone, kernel.clock.now())
    return planningOf(reader, query, workDaysFrom(query.from ?? today, boardDays), today)
  })
  routes.change(record.assignInspection, (work, { params, body, person }) => assign(work, params.id, body, person as Person))
  routes.change(record.takeInspection, (work, { params, body, person }) => take(work, params.id, body.isTakingOver, person as Person))
  routes.change(record.putBackInspection, (work, { params, person }) => putBack(work, params.id, person as Person))

  routes.list(record.listTold, toldList, (_query, person) => unseenBy(person?.id ?? ''))
  routes.change(record.seeTold, async (work, { params }) => {
    await seeTold(work, params.id)
    return {}
  })

  routes.readLong(endpoints.define.getPast, (reader, { params, query }) => pastOf(reader, params.id, query))
  routes.read(record.getInspection, (reader, { params, query }) => loadInspection(reader, params.id, query.lotId ?? null))

  routes.change(record.recordReadings, async (work, { params, body, person }) => {
    await requireRecorder(work, params.id, person)
    await requireNotTaken(work, params.id, person)
    return recordReadings(work, cache, params.id, body.readings)
  })

  routes.change(record.finishInspection, async (work, { params, body, person }) => {
    await requireRecorder(work, params.id, person)
    await requireNotTaken(work, params.id, person)
    await finishInspection(work, params.id, body.version, body.skips)
    return loadInspection(work.manager, params.id)
  })

  routes.change(record.openByHand, async (work, { params, body }) => {
    const { id } = await openByHand(work, params.id, body)
    return loadInspection(work.manager, id)
  })

  routes.change(record.answerOnSpot, async (work, { params, body, person }) => {
    await requireRecorder(work, params.id, person)
    await requireNotTaken(work, params.id, person)
    await answerOnSpot(work, cache, params.id, body)
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

  routes.change(record.adaptLine, async (work, { params, body, person }) => {
    await requireNotTaken(work, params.id, person, true)
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
    await requireNotTaken(work, params.id, person, true)
    await cancelInspection(work, current, body.reason)
    return loadInspection(work.manager, params.id)
  })
}
