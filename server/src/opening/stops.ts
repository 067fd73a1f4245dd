import type { SamplingRule } from '@nemawashi/core'
import { ServerError } from '../kernel/base/serverError'
import type { DomainEventFacts } from '../kernel/work/domainEvents'
import type { Work } from '../kernel/work/unitOfWork'
import { loadAt, saveNext } from '../kernel/work/versioned'
import { AcceptanceStopEntity, type AcceptanceStopRow } from './stopEntities'
import { keepAnswer, severityOf } from './severity'
import { historyOf, standingStop, stopsBy, switchingLines } from './severityRepository'

const words = 'acceptance stop'

/** Writes down the lines on which acceptance stops with this finding: nothing of theirs is accepted by sample until a person answers. */
export async function noteStops(work: Work, { inspection }: DomainEventFacts['inspectionFinished']): Promise<void> {
  const about = await historyOf(work.manager, inspection.id)
  if (about === null) return
  for (const { characteristicId, sampling } of await switchingLines(work.manager, inspection.id)) {
    const history = { ...about, characteristicId }
    const now = await severityOf(work.manager, JSON.parse(sampling) as SamplingRule, history)
    if (now?.state !== 'discontinued' || now.because === null || (await standingStop(work.manager, history)) !== null) continue
    const stop: AcceptanceStopRow = {
      id: work.newId(),
      ...history,
      inspectionId: inspection.id,
      at: work.now,
      because: now.because,
      endedAs: null,
      endedAt: null,
      endedById: null,
      reason: '',
      version: 1,
    }
    await work.manager.insert(AcceptanceStopEntity, { ...stop })
    work.audit({ action: 'stopped', subject: words, subjectId: stop.id, after: { inspection: inspection.code, because: now.because } })
  }
}

/** An inspection that is opened again no longer stops anything. */
export async function withdrawStops(work: Work, { inspection }: DomainEventFacts['inspectionReopened']): Promise<void> {
  for (const id of await stopsBy(work.manager, inspection.id)) {
    const current = await work.manager.findOneByOrFail(AcceptanceStopEntity, { id })
    const ended = { endedAs: 'reopened', endedAt: work.now, endedById: work.personId } as const
    await saveNext(work, AcceptanceStopEntity, words, 'withdrawn', current, ended)
  }
}

/**
 * Lets acceptance begin again, on tightened inspection. Source: MIL-STD-105E, 4.8.
 * @throws {ServerError} `not_found`, `stale_version`, `stop_ended` where it stands no longer.
 */
export async function answerStop(work: Work, id: string, { version, reason }: { version: number; reason: string }): Promise<void> {
  const current = await loadAt(work, AcceptanceStopEntity, words, id, version)
  if (current.endedAt !== null)
    throw new ServerError('stop_ended', 'This stop stands no longer: it was answered, or its inspection was opened again.', {
      endedAt: current.endedAt,
    })
  await saveNext(
    work,
    AcceptanceStopEntity,
    words,
    'answered',
    current,
    { endedAs: 'answered', endedAt: work.now, endedById: work.personId, reason },
    reason,
  )
  await keepAnswer(work, current)
}
