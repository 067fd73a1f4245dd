import { revisionTransitions, type RevisionState } from '@nemawashi/core'
import type { EntitySchema, FindOptionsWhere, ObjectLiteral } from 'typeorm'
import type { QueryDeepPartialEntity } from 'typeorm/query-builder/QueryPartialEntity.js'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'

interface Revision extends ObjectLiteral {
  id: string
  revision: number
  state: RevisionState
}

async function inState<T extends Revision>(work: Work, entity: EntitySchema<T>, owner: object, state: Revision['state']): Promise<T | null> {
  return work.manager.findOneBy(entity, { ...owner, state } as FindOptionsWhere<T>)
}

/** The released revision, or null. At most one is. */
export function releasedOf<T extends Revision>(work: Work, entity: EntitySchema<T>, owner: object): Promise<T | null> {
  return inState(work, entity, owner, 'released')
}

/** @throws {ServerError} `not_a_draft`. */
export async function draftOf<T extends Revision>(work: Work, entity: EntitySchema<T>, owner: object, words: string, code: string): Promise<T> {
  const draft = await inState(work, entity, owner, 'draft')
  if (!draft) throw new ServerError('not_a_draft', `The ${words} ${code} has no draft.`, { code })
  return draft
}

/** Takes a draft back; `left` says whether an earlier revision stands, else the whole definition goes. */
export async function discardDraft<T extends Revision>(work: Work, entity: EntitySchema<T>, owner: object, draft: T): Promise<{ left: boolean }> {
  await work.manager.delete(entity, { id: draft.id } as FindOptionsWhere<T>)
  return { left: await work.manager.existsBy(entity, owner as FindOptionsWhere<T>) }
}

/** Releases a draft and retires the revision that was released before it. */
export async function releaseDraft<T extends Revision>(work: Work, entity: EntitySchema<T>, owner: object, draft: T): Promise<void> {
  const previous = await releasedOf(work, entity, owner)
  if (previous)
    await work.manager.update(
      entity,
      { id: previous.id } as FindOptionsWhere<T>,
      { state: revisionTransitions.retire.to } as Partial<T> as QueryDeepPartialEntity<T>,
    )
  await work.manager.update(
    entity,
    { id: draft.id } as FindOptionsWhere<T>,
    { state: revisionTransitions.release.to, releasedAt: work.now, releasedById: work.personId } as object as QueryDeepPartialEntity<T>,
  )
}
