import { spotAnswererOf } from '@nemawashi/core'
import { recordersOf, roleWords, type Person, type Role } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { consequenceFrom } from '../../inspections/inspections'
import { inspectionRows } from '../../inspections/rows'
import { operationRows } from '../../define/masters/rows'

/**
 * Refuses who neither works at the bench nor answers this inspection on the spot: an operator those of the own step, whoever receives what is
 * asked of what arrives.
 * @throws {ServerError} `not_found`, `role_missing` with who may.
 */
export async function requireRecorder(work: Work, id: string, person: Person | null): Promise<void> {
  const isOneOf = (roles: readonly Role[]) => roles.some((role) => person?.roles.includes(role) ?? false)
  if (isOneOf(recordersOf(null))) return
  const found = await inspectionRows.find(work.manager, { id })
  if (!found) throw new ServerError('not_found', `There is no inspection with the id ${id}.`, { id })
  const { kind } = await operationRows.load(work.manager, found.operationId)
  const needed = recordersOf(spotAnswererOf(kind, consequenceFrom(found.consequence).answeredAt))
  if (isOneOf(needed)) return
  throw new ServerError('role_missing', `${found.code} is recorded by: ${needed.map((role) => roleWords[role]).join(', ')}.`, { needed })
}
