import type { Person } from '@nemawashi/contract'
import { nameKey, type Attempts } from './attempts'
import type { Reader } from '../kernel/work/database'
import { ServerError } from '../kernel/base/serverError'
import { PersonEntity, type PersonRow } from './entities'
import { isPassword } from './passwords'

/**
 * The active person with this sign-in name and password, or null. Tries are counted before they are looked at, and slow further ones.
 * @param deviceOf the number of the device, where that person signed in on it before
 * @throws {ServerError} `too_many_attempts`.
 */
export async function checkPassword(
  reader: Reader,
  attempts: Attempts,
  signInName: string,
  password: string,
  address: string,
  deviceOf: (personId: string) => string | null = () => null,
): Promise<PersonRow | null> {
  const row = await reader.findOneBy(PersonEntity, { signInKey: nameKey(signInName) })
  const succeeded = await attempts.signIn(signInName, address, row === null ? null : deviceOf(row.id))
  if (!(await isPassword(row?.passwordHash ?? null, password)) || !row?.isActive) return null
  await succeeded()
  return row
}

/**
 * Checks the password of somebody who is signed in, under what they sign or change. Only their own failures count.
 * @throws {ServerError} `password_wrong`, `too_many_attempts`.
 */
export async function checkSeal(reader: Reader, attempts: Attempts, person: Person, password: string, field = 'password'): Promise<void> {
  const succeeded = await attempts.seal(person.id)
  const row = await reader.findOneBy(PersonEntity, { id: person.id })
  if (!row?.isActive || !(await isPassword(row.passwordHash, password)))
    throw new ServerError('password_wrong', 'The password is wrong; nothing was changed.', { field })
  await succeeded()
}
