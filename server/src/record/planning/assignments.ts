import { isOpen, takingOf } from '@nemawashi/core'
import type { Assignment, Person } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { assignmentOf, isAtBench } from '../../inspections/assignmentRepository'
import type { AssignmentRow } from '../../inspections/assignmentEntities'
import type { InspectionRow } from '../../inspections/entities'
import { assignmentRows, inspectionRows } from '../../inspections/rows'
import { insertAssignment, updateAssignment } from '../../inspections/writes'

/** Engineers and quality managers plan for everybody, and put back what others have. */
const leads = (person: Person) => person.roles.includes('qualityEngineer') || person.roles.includes('qualityManager')

async function inspectionOf(work: Work, id: string): Promise<InspectionRow> {
  const found = await inspectionRows.find(work.manager, { id })
  if (!found) throw new ServerError('not_found', `There is no inspection with the id ${id}.`, { id })
  return found
}

async function openOne(work: Work, id: string): Promise<InspectionRow> {
  const found = await inspectionOf(work, id)
  if (!isOpen(found.state)) throw new ServerError('inspection_closed', `${found.code} is closed: there is nothing to do on it any more.`)
  return found
}

/** Writes what differs, with who did it. An inspection has a row here from the first time that somebody plans or takes it. */
async function keep(work: Work, { id, code }: InspectionRow, action: string, changes: Partial<AssignmentRow>): Promise<Assignment> {
  const current = await assignmentRows.find(work.manager, { id })
  const { personId, day, holderId } = current ?? { personId: null, day: null, holderId: null }
  if (current) await updateAssignment(work, id, { ...changes, version: current.version + 1 })
  else await insertAssignment(work, { id, personId: null, day: null, holderId: null, heldAt: null, ...changes, version: 1 })
  work.audit({ action, subject: 'inspection', subjectId: id, before: { personId, day, holderId }, after: { code, ...changes } })
  return assignmentOf(work.manager, id)
}

/**
 * Plans an inspection for somebody, and for a day.
 * @throws {ServerError} `not_found`, `inspection_closed`, `stale_version`, `role_missing` where an inspector plans for another, `reference_unknown`.
 */
export async function assign(
  work: Work,
  id: string,
  { personId, day, version }: { personId: string | null; day: string | null; version: number },
  by: Person,
): Promise<Assignment> {
  const inspection = await openOne(work, id)
  const before = await assignmentOf(work.manager, id)
  if (before.version !== version)
    throw new ServerError('stale_version', `${inspection.code} was planned or taken by somebody else meanwhile.`, {
      seenVersion: version,
      currentVersion: before.version,
      changedByName: null,
      changedAt: before.heldSince,
    })
  const isOwn = [before.personId, personId].every((person) => person === null || person === by.id)
  if (!isOwn && !leads(by))
    throw new ServerError('role_missing', 'An inspector plans their own work; that of others is planned by an engineer or a quality manager.', {
      needed: ['qualityEngineer', 'qualityManager'],
    })
  if (personId !== null && !(await isAtBench(work.manager, personId)))
    throw new ServerError('reference_unknown', 'An inspection is planned for somebody who works at the bench and may sign in.', {
      field: 'personId',
      received: personId,
    })
  return keep(work, inspection, 'planned', { personId, day: personId === null ? null : day })
}

/**
 * Takes an inspection for whoever asks, so that nobody else does.
 * @throws {ServerError} `not_found`, `inspection_closed`, `inspection_taken` with who has it and since when.
 */
export async function take(work: Work, id: string, isTakingOver: boolean, by: Person): Promise<Assignment> {
  const inspection = await openOne(work, id)
  const before = await assignmentOf(work.manager, id)
  const taking = takingOf({ state: inspection.state, holderId: before.holderId }, by.id)
  if (taking === 'taken' && !isTakingOver)
    throw new ServerError(
      'inspection_taken',
      `${before.holderName ?? 'Somebody'} has ${inspection.code} since ${before.heldSince ?? 'a moment ago'}.`,
      {
        holder: before.holderName,
        since: before.heldSince,
      },
    )
  if (taking === 'own') {
    work.nothingChanged()
    return before
  }
  return keep(work, inspection, taking === 'taken' ? 'taken over' : 'taken', { holderId: by.id, heldAt: work.now })
}

/**
 * Refuses work on an inspection that another has taken: it is taken over first, by an act of its own, so that both know.
 * @param isForLeads whether engineers and quality managers may all the same
 * @throws {ServerError} `inspection_taken` with who has it and since when.
 */
export async function requireNotTaken(work: Work, id: string, by: Person | null, isForLeads = false): Promise<void> {
  const row = await assignmentRows.find(work.manager, { id })
  if (row === null || row.holderId === null || row.holderId === by?.id || (isForLeads && by !== null && leads(by))) return
  const { holderName, heldSince } = await assignmentOf(work.manager, id)
  const { code } = await inspectionOf(work, id)
  throw new ServerError(
    'inspection_taken',
    `${holderName ?? 'Somebody'} has ${code} since ${heldSince ?? 'a moment ago'}. Take it over to go on with it.`,
    {
      holder: holderName,
      since: heldSince,
    },
  )
}

/**
 * Puts an inspection back for whoever takes it next; what was recorded stays.
 * @throws {ServerError} `not_found`, `inspection_taken` where another has it and whoever asks may not put theirs back.
 */
export async function unassign(work: Work, id: string, by: Person): Promise<Assignment> {
  const inspection = await inspectionOf(work, id)
  const before = await assignmentOf(work.manager, id)
  if (before.holderId === null) {
    work.nothingChanged()
    return before
  }
  if (before.holderId !== by.id && !leads(by))
    throw new ServerError('inspection_taken', `${before.holderName ?? 'Somebody'} has ${inspection.code}: they put it back, or an engineer does.`, {
      holder: before.holderName,
      since: before.heldSince,
    })
  return keep(work, inspection, 'put back', { holderId: null, heldAt: work.now })
}
