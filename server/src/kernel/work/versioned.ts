import { sameFacts } from '@nemawashi/contract'
import type { EntitySchema, FindOptionsWhere } from 'typeorm'
import type { QueryDeepPartialEntity } from 'typeorm/query-builder/QueryPartialEntity.js'
import { ServerError } from '../base/serverError'
import type { Work } from './unitOfWork'
import type { ReadRows } from '../database/readRows'
import { rowsOf } from '../database/rowsOf'

/** A type and no interface: what is one is a plain object in the mapper's eyes. */
export type Versioned = { id: string; version: number }

/** Loads a row for changing, or refuses when the caller saw another version: with who changed it, when, and what it is now. */
export async function loadAt<T extends Versioned>(work: Work, entity: EntitySchema<T>, words: string, id: string, version: number): Promise<T> {
  const current = await work.manager.findOneBy(entity, { id } as FindOptionsWhere<T>)
  if (!current) throw new ServerError('not_found', `There is no ${words} with the id ${id}.`, { id })
  if (current.version !== version) {
    const [last] = await rowsOf(
      work.manager,
      { at: 'text', name: 'text?' },
      'SELECT a.at, p.name FROM audit a LEFT JOIN person p ON p.id = a.person_id WHERE a.subject_id = ? ORDER BY a.seq DESC LIMIT 1',
      [id],
    )
    throw new ServerError('stale_version', `${last?.name ?? 'Somebody'} changed this ${words} while you had it open.`, {
      seenVersion: version,
      currentVersion: current.version,
      changedByName: last?.name ?? null,
      changedAt: last?.at ?? null,
    })
  }
  return current
}

/** Writes the changed fields with the next version and tells the audit chain what differs. */
export async function saveNext<T extends Versioned>(
  work: Work,
  entity: EntitySchema<T>,
  subject: string,
  action: string,
  current: T,
  changes: Partial<T>,
  why?: string,
): Promise<void> {
  const before: Record<string, unknown> = {}
  const after: Record<string, unknown> = {}
  const stands = current as Record<string, unknown>
  for (const [key, value] of Object.entries(changes)) {
    if (sameFacts(stands[key], value)) continue
    before[key] = stands[key]
    after[key] = value
  }
  await work.manager.update(
    entity,
    { id: current.id } as FindOptionsWhere<T>,
    { ...changes, version: current.version + 1 } as QueryDeepPartialEntity<T>,
  )
  work.audit({ action, subject, subjectId: current.id, before, after, ...(why === undefined ? {} : { why }) })
}

/** The row that an id names. @throws {ServerError} `reference_unknown` */
export async function loadReference<T extends { id: string }>(
  work: Work,
  rows: Pick<ReadRows<T>, 'find'>,
  words: string,
  id: string,
  field: string,
): Promise<T> {
  const row = await rows.find(work.manager, { id } as FindOptionsWhere<T>)
  if (!row) throw new ServerError('reference_unknown', `The ${words} ${id} does not exist.`, { field, received: id })
  return row
}

/** Refuses a reference to something that does not exist. */
export async function requireReference<T extends { id: string }>(
  work: Work,
  rows: Pick<ReadRows<T>, 'find'>,
  words: string,
  id: string | null,
  field: string,
): Promise<void> {
  if (id !== null) await loadReference(work, rows, words, id, field)
}

/** Refuses a code that is taken. */
export async function requireFreeCode<T extends { id: string; code: string }>(
  work: Work,
  entity: EntitySchema<T>,
  words: string,
  code: string,
  exceptId: string | null,
): Promise<void> {
  const [taken] = await work.manager.findBy(entity, { code } as FindOptionsWhere<T>)
  if (taken && taken.id !== exceptId)
    throw new ServerError('already_exists', `There is a ${words} with the code ${code} already.`, { field: 'code', received: code, id: taken.id })
}
