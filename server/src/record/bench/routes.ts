import { endpoints } from '@nemawashi/contract'
import { loadInspection } from '../../inspections/inspections'
import type { Routes } from '../../kernel/routes'
import { requireNotTaken } from '../planning/assignments'
import { adaptLine } from './adapt'
import { answerOnSpot } from './answerOnSpot'
import { cancelByHand } from './cancelByHand'
import { addEvidence, inspectionOfEvidence, withdrawEvidence } from './evidence'
import { finishInspection } from './finish'
import { pastOf } from './past'
import { lineSeries } from './lineSeries'
import { holdMadeByHand, madeSinceFor } from './holdMade'
import { LineCache, recordReadings } from './recordReadings'
import { requireRecorder } from '../planning/recorders'
import { reopenInspection } from './reopen'
import { markNotificationRead } from './notifications'
import { notificationList, unreadBy } from './notificationRepository'

const { record } = endpoints

export function benchRoutes(routes: Routes): void {
  const cache = new LineCache()

  routes.list(record.listNotifications, notificationList, (_query, person) => unreadBy(person?.id ?? ''))
  routes.change(record.markNotificationRead, async (work, { params }) => {
    await markNotificationRead(work, params.id)
    return {}
  })

  routes.readLong(endpoints.define.getPast, (reader, { params, query }) => pastOf(reader, params.id, query))
  routes.read(record.getInspection, (reader, { params, query }) => loadInspection(reader, params.id, query.lotId ?? null))
  routes.readLong(record.getLineSeries, (reader, { params }) => lineSeries(reader, params.id))

  routes.change(record.recordReadings, async (work, { params, body, person }) => {
    await requireRecorder(work, params.id, person)
    await requireNotTaken(work, params.id, person)
    return recordReadings(work, cache, params.id, body.readings)
  })
  routes.read(record.getMadeSince, async (reader, { params }) => ({ run: await madeSinceFor(reader, params.id) }))
  routes.change(record.holdMadeSince, async (work, { params, person }) => {
    await requireRecorder(work, params.id, person)
    await requireNotTaken(work, params.id, person)
    await holdMadeByHand(work, params.id)
    return { run: await madeSinceFor(work.manager, params.id) }
  })
  routes.change(record.addEvidence, async (work, { params, body, person }) => {
    await requireRecorder(work, params.id, person)
    await requireNotTaken(work, params.id, person)
    return { evidence: await addEvidence(work, params.id, body) }
  })
  routes.change(record.withdrawEvidence, async (work, { params, body, person }) => {
    const inspectionId = await inspectionOfEvidence(work, params.id)
    await requireRecorder(work, inspectionId, person)
    await requireNotTaken(work, inspectionId, person)
    return { evidence: await withdrawEvidence(work, params.id, body.reason) }
  })
  routes.change(record.finishInspection, async (work, { params, body, person }) => {
    await requireRecorder(work, params.id, person)
    await requireNotTaken(work, params.id, person)
    await finishInspection(work, params.id, body.version, body.skips)
    return loadInspection(work.manager, params.id)
  })
  routes.change(record.answerOnSpot, async (work, { params, body, person }) => {
    await requireRecorder(work, params.id, person)
    await requireNotTaken(work, params.id, person)
    await answerOnSpot(work, cache, params.id, body)
    return loadInspection(work.manager, params.id)
  })
  routes.change(record.reopenInspection, async (work, { params, body }) => {
    await reopenInspection(work, params.id, body)
    return loadInspection(work.manager, params.id)
  })
  routes.change(record.adaptLine, async (work, { params, body, person }) => {
    await requireNotTaken(work, params.id, person, true)
    await adaptLine(work, params.id, body)
    return loadInspection(work.manager, params.id)
  })
  routes.change(record.cancelInspection, async (work, { params, body, person }) => {
    await cancelByHand(work, params.id, body, person)
    return loadInspection(work.manager, params.id)
  })
}
