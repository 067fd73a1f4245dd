import type { Attempts } from '../kernel/attempts'
import type { Reader } from '../kernel/database'
import { PersonEntity, type PersonRow } from './entities'
import { isPassword } from './passwords'

/**
 * The active person with this sign-in name and password, or null. Failures are counted and slow further tries.
 * @throws {ServerError} `too_many_attempts`.
 */
export async function checkPassword(
  reader: Reader,
  attempts: Attempts,
  signInName: string,
  password: string,
  address: string,
): Promise<PersonRow | null> {
  attempts.check(signInName, address)
  const row = await reader.findOneBy(PersonEntity, { signInKey: signInName.trim().toLowerCase() })
  if ((await isPassword(row?.passwordHash ?? null, password)) && row?.isActive) {
    attempts.succeeded(signInName)
    return row
  }
  attempts.failed(signInName, address)
  return null
}
