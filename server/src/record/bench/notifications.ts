import { usualConsequence } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, maybeText, references, text } from '../../kernel/database/columns'
import type { DomainEventFacts } from '../../kernel/work/domainEvents'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'

export interface NotificationRow {
  id: string
  personId: string
  inspectionId: string
  at: string
  /** Null while the person has not looked at it. */
  seenAt: string | null
}
/** Who was told of an inspection that is not acceptable, and whether they have seen it. */
export const NotificationEntity = new EntitySchema<NotificationRow>({
  name: 'told',
  columns: { id, personId: references('person'), inspectionId: references('inspection'), at: text, seenAt: maybeText },
  indices: [
    { name: 'told_person', columns: ['personId', 'seenAt', 'at'] },
    { name: 'told_inspection', columns: ['inspectionId'] },
  ],
})

/** Tells whom the control point names, when an inspection is not acceptable. */
export async function notifyPeople(work: Work, { inspection, verdict }: DomainEventFacts['inspectionFinished']): Promise<void> {
  const { tells } = inspection.consequence ?? usualConsequence
  if (verdict !== 'notAcceptable' || tells.length === 0) return
  for (const personId of tells)
    await work.manager.insert(NotificationEntity, { id: work.newId(), personId, inspectionId: inspection.id, at: work.now, seenAt: null })
  work.audit({ action: 'told', subject: 'inspection', subjectId: inspection.id, after: { tells } })
}

/** A person has looked at what they were told. @throws {ServerError} `not_found` where it was told to somebody else. */
export async function markNotificationRead(work: Work, notificationId: string): Promise<void> {
  const notification = await work.manager.findOneBy(NotificationEntity, { id: notificationId, personId: work.personId ?? '' })
  if (!notification) throw new ServerError('not_found', 'There is nothing that you were told under this id.', { id: notificationId })
  if (notification.seenAt !== null) return void work.nothingChanged()
  await work.manager.update(NotificationEntity, { id: notificationId }, { seenAt: work.now })
  work.audit({ action: 'seen', subject: 'inspection', subjectId: notification.inspectionId, after: { told: notificationId } })
}
