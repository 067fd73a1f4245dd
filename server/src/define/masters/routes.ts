import { countUses, masterList, masterColumns } from './repository'
import { requireNothingRests, type Property } from './restsRepository'
import type { ById, Nothing } from '@nemawashi/contract'
import {
  endpoints,
  type AnswerList,
  type CountUnit,
  type FinerStanding,
  type Endpoint,
  type Family,
  type FaultCode,
  type ImportanceClass,
  type Operation,
  type Partner,
  type Place,
  type Reason,
} from '@nemawashi/contract'
import type { EntitySchema, FindOptionsWhere } from 'typeorm'
import type { QueryDeepPartialEntity } from 'typeorm/query-builder/QueryPartialEntity.js'
import type { z } from 'zod'
import type { Column } from '../../kernel/http/lists'
import type { Routes } from '../../kernel/routes'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, requireFreeCode, saveNext } from '../../kernel/work/versioned'
import {
  AnswerListEntity,
  CountUnitEntity,
  FinerStandingEntity,
  FamilyEntity,
  FaultCodeEntity,
  ImportanceClassEntity,
  OperationEntity,
  PartnerEntity,
  PlaceEntity,
  ReasonEntity,
} from './entities'

const { define } = endpoints

type Coded = { id: string; code: string; name: string; version: number }

/** The four addresses of a kind of record. */
interface Addresses<T extends Coded> {
  readonly list: Endpoint
  readonly get: Endpoint<typeof ById, typeof Nothing, typeof Nothing, z.ZodType<T>>
  readonly create: Endpoint<typeof Nothing, typeof Nothing, z.ZodType<Omit<T, 'id' | 'version'>>, z.ZodType<T>>
  readonly update: Endpoint<typeof ById, typeof Nothing, z.ZodType<Omit<T, 'id'>>, z.ZodType<T>>
}

/** Definitions name kept words by their code, so the code of one in use stays; it can be retired and another made. */
async function requireUnused(work: Work, { options }: EntitySchema, uses: Column | undefined, words: string, row: Coded): Promise<void> {
  if (!uses) return
  const count = await countUses(work.manager, options.name, uses, row.id)
  if (count > 0)
    throw new ServerError(
      'still_in_use',
      `The ${words} ${row.code} is named in ${count} places. Retire it and make another instead of changing its code.`,
      {
        field: 'code',
        uses: count,
      },
    )
}

/** Registers list, get, create and update of one simple kind of master data. */
function master<T extends Coded>(
  routes: Routes,
  area: Addresses<T>,
  entity: EntitySchema<T>,
  words: string,
  extra: Record<string, Column>,
  /** A field that other things rest on, and how that is called. */
  resting: { readonly field: keyof T & string; readonly property: Property } | null = null,
): void {
  routes.list(area.list, masterList(entity.options.name, extra))
  routes.read(area.get, async (reader, { params }) => {
    const row = await reader.findOneBy(entity, { id: params.id } as FindOptionsWhere<T>)
    if (!row) throw new ServerError('not_found', `There is no ${words} with the id ${params.id}.`)
    return row
  })
  routes.change(area.create, async (work, { body }) => {
    await requireFreeCode(work, entity, words, body.code, null)
    const row = { ...body, id: work.newId(), version: 1 } as T
    await work.manager.insert(entity, { ...row } as QueryDeepPartialEntity<T>)
    work.audit({ action: 'created', subject: words, subjectId: row.id, after: body })
    return row
  })
  routes.change(area.update, async (work, { params, body }) => {
    const { version, ...fields } = body
    const current = await loadAt(work, entity, words, params.id, version)
    await requireFreeCode(work, entity, words, fields.code, params.id)
    if (fields.code !== current.code) await requireUnused(work, entity, extra['uses'], words, current)
    if (resting && (fields as Partial<T>)[resting.field] !== current[resting.field])
      await requireNothingRests(work, resting.property, resting.field, current)
    await saveNext(work, entity, words, 'changed', current, fields as Partial<T>)
    return { ...current, ...fields, version: version + 1 }
  })
}

export function masterRoutes(routes: Routes): void {
  master<Family>(routes, define.families, FamilyEntity, 'family', masterColumns.families)
  master<Partner>(routes, define.partners, PartnerEntity, 'partner', masterColumns.partners, { field: 'kind', property: 'partner kind' })
  master<Place>(routes, define.places, PlaceEntity, 'place', masterColumns.places, { field: 'purpose', property: 'place purpose' })
  master<AnswerList>(routes, define.answerLists, AnswerListEntity, 'answer list', masterColumns.answerLists)
  master<FaultCode>(routes, define.faultCodes, FaultCodeEntity, 'fault code', masterColumns.faultCodes)
  master<Reason>(routes, define.reasons, ReasonEntity, 'reason', masterColumns.reasons)
  master<ImportanceClass>(routes, define.classes, ImportanceClassEntity, 'class', masterColumns.classes)
  master<CountUnit>(routes, define.countUnits, CountUnitEntity, 'unit of count', masterColumns.countUnits)
  master<FinerStanding>(routes, define.finerStandings, FinerStandingEntity, 'finer standing', masterColumns.finerStandings)
  master<Operation>(routes, define.operations, OperationEntity, 'operation', masterColumns.operations, { field: 'kind', property: 'operation kind' })
}
