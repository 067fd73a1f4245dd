import { spotAnswererOf, usualConsequence } from '@nemawashi/core'
import { bench, roleWords, type Person, type Role } from '@nemawashi/contract'
import { OperationEntity } from '../define/entities'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { InspectionEntity } from './entities'

/**
 * Refuses who neither works at the bench nor answers this inspection on the spot: an operator those of the own step, whoever receives what is
 * asked of what arrives.
 * @throws {ServerError} `not_found`, `role_missing` with who may.
 */
export async function requireRecorder(work: Work, id: string, person: Person | null): Promise<void> {
  const has = (role: Role) => person?.roles.includes(role) ?? false
  if (bench.some(has)) return
  const found = await work.manager.findOneBy(InspectionEntity, { id })
  if (!found) throw new ServerError('not_found', `There is no inspection with the id ${id}.`, { id })
  const { kind } = await work.manager.findOneByOrFail(OperationEntity, { id: found.operationId })
  const answerer = spotAnswererOf(kind, (found.consequence ?? usualConsequence).answeredAt)
  if (answerer !== null && has(answerer)) return
  const needed: Role[] = [...bench, ...(answerer === null ? [] : [answerer])]
  throw new ServerError('role_missing', `${found.code} is recorded by: ${needed.map((role) => roleWords[role]).join(', ')}.`, { needed })
}
