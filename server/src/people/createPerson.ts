import type { Person } from '@nemawashi/contract'
import { nameKey } from './attempts'
import { ServerError } from '../kernel/base/serverError'
import type { Work } from '../kernel/work/unitOfWork'
import { PersonEntity, personOf, type PersonRow } from './entities'

/** Seven of eight hours: the rest goes into what nobody plans. */
const usualDayMinutes = 420

/** Refuses a sign-in name that somebody else has, whatever its case. */
export async function requireFreeSignInName(work: Work, signInName: string, exceptId: string | null): Promise<void> {
  const taken = await work.manager.findOneBy(PersonEntity, { signInKey: nameKey(signInName) })
  if (taken && taken.id !== exceptId)
    throw new ServerError('already_exists', `Somebody signs in as ${signInName} already.`, { field: 'signInName', received: signInName })
}

export async function createPerson(
  work: Work,
  input: Pick<Person, 'name' | 'initials' | 'signInName' | 'roles'>,
  passwordHash: string,
): Promise<PersonRow> {
  await requireFreeSignInName(work, input.signInName, null)
  const { name, initials, signInName, roles } = input
  const row: PersonRow = {
    id: work.newId(),
    name,
    initials,
    signInName,
    signInKey: nameKey(signInName),
    passwordHash,
    roles,
    isActive: true,
    dayMinutes: usualDayMinutes,
    version: 1,
  }
  await work.manager.insert(PersonEntity, { ...row })
  work.audit({ action: 'created', subject: 'person', subjectId: row.id, after: personOf(row) })
  return row
}
