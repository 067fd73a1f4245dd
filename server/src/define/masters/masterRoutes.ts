import type { ById, Endpoint, Nothing } from '@nemawashi/contract'
import type { EntitySchema, FindOptionsWhere } from 'typeorm'
import type { QueryDeepPartialEntity } from 'typeorm/query-builder/QueryPartialEntity.js'
import type { z } from 'zod'
import type { Column } from '../../kernel/http/lists'
import type { Routes } from '../../kernel/routes'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, requireFreeCode, saveNext } from '../../kernel/work/versioned'
import { countUses, masterList } from './repository'
import { requireNothingRests, type Property } from './restsRepository'

type Coded = { id: string; code: string; name: string; version: number }

/** The four addresses of a kind of record. */
interface Addresses<T extends Coded> {
  readonly list: Endpoint
  readonly get: Endpoint<typeof ById, typeof Nothing, typeof Nothing, z.ZodType<T>>
  readonly create: Endpoint<typeof Nothing, typeof Nothing, z.ZodType<Omit<T, 'id' | 'version'>>, z.ZodType<T>>
  readonly update: Endpoint<typeof ById, typeof Nothing, z.ZodType<Omit<T, 'id'>>, z.ZodType<T>>
}

/** Definitions name kept words by their code, so the code of one in use stays; it can be retired and another made. */
async function requireUnused(
  work: Work,
  { options }: EntitySchema,
  uses: Column | undefined,
  words: string,
  row: Coded,
  field: string,
): Promise<void> {
  if (!uses) return
  const count = await countUses(work.manager, options.name, uses, row.id)
  if (count > 0)
    throw new ServerError(
      'still_in_use',
      `The ${words} ${row.code} is named in ${count} places. Retire it and make another instead of changing its ${field}.`,
      {
        field,
        uses: count,
      },
    )
}

/** What is particular to a kind of record. */
interface Particular<T extends Coded> {
  /** A field that other things rest on, and how that is called. */
  readonly resting?: { readonly field: keyof T & string; readonly property: Property }
  /** What stays as it is while the record is named anywhere: its code, and what else is said here. */
  readonly kept?: readonly (keyof T & string)[]
  /** Brings what was sent to its kept form, or refuses it. */
  readonly checked?: <F extends Partial<T>>(fields: F) => F
}

/** Registers list, get, create and update of one simple kind of master data. */
export function master<T extends Coded>(
  routes: Routes,
  area: Addresses<T>,
  entity: EntitySchema<T>,
  words: string,
  extra: Record<string, Column>,
  { resting, kept = ['code'], checked = (fields) => fields }: Particular<T> = {},
): void {
  routes.list(area.list, masterList(entity.options.name, extra))
  routes.read(area.get, async (reader, { params }) => {
    const row = await reader.findOneBy(entity, { id: params.id } as FindOptionsWhere<T>)
    if (!row) throw new ServerError('not_found', `There is no ${words} with the id ${params.id}.`)
    return row
  })
  routes.change(area.create, async (work, { body }) => {
    await requireFreeCode(work, entity, words, body.code, null)
    const row = { ...checked(body as unknown as Partial<T>), id: work.newId(), version: 1 } as unknown as T
    await work.manager.insert(entity, { ...row } as QueryDeepPartialEntity<T>)
    work.audit({ action: 'created', subject: words, subjectId: row.id, after: body })
    return row
  })
  routes.change(area.update, async (work, { params, body }) => {
    const { version, ...sent } = body
    const fields = checked(sent as unknown as Partial<T>)
    const current = await loadAt(work, entity, words, params.id, version)
    await requireFreeCode(work, entity, words, sent.code, params.id)
    const changed = kept.find((field) => fields[field] !== current[field])
    if (changed !== undefined) await requireUnused(work, entity, extra['uses'], words, current, changed)
    if (resting && fields[resting.field] !== current[resting.field]) await requireNothingRests(work, resting.property, resting.field, current)
    await saveNext(work, entity, words, 'changed', current, fields)
    return { ...current, ...fields, version: version + 1 }
  })
}
