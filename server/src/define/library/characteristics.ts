import { revisionTransitions } from '@nemawashi/core'
import { revisionsOf, characteristicList, characteristicFilters } from './repository'
import { endpoints, type Characteristic, type CharacteristicFields } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import type { Routes } from '../../kernel/routes'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, requireFreeCode, saveNext } from '../../kernel/work/versioned'
import { CharacteristicEntity, CharacteristicRevisionEntity } from './entities'
import { plansUsing } from './usesRepository'
import { knownUnits } from '../masters/measureUnits'
import { checkedFields, detailsOf } from './checkedFields'
import { releaseCharacteristic } from './releaseCharacteristic'
import { discardDraft, draftOf, releasedOf } from './revisions'
import { usesOf } from './usesRepository'
import { importanceClassRows } from '../masters/rows'

const { define } = endpoints
const words = 'characteristic'

export async function loadCharacteristic(reader: Reader, id: string): Promise<Characteristic> {
  const row = await reader.findOneBy(CharacteristicEntity, { id })
  if (!row) throw new ServerError('not_found', `There is no characteristic with the id ${id}.`)
  const revisions = await revisionsOf(reader, id)
  const { importId: _, ...head } = row
  return {
    ...head,
    revisions: revisions.map(({ characteristicId: __, releasedById: ___, details, ...revision }) => ({ ...revision, details: detailsOf(details) })),
    usedIn: await plansUsing(reader, id),
    uses: await usesOf(reader, id),
  }
}

/** A class has to be on the list and in use; a draft may keep the one it has. */
async function requireClass(work: Work, code: string, kept: string | null): Promise<void> {
  if (code === kept || (await importanceClassRows.exists(work.manager, { code, isActive: true }))) return
  const known = await importanceClassRows.list(work.manager, { isActive: true })
  throw new ServerError('reference_unknown', `Received the class "${code}". The list has ${known.map((each) => each.code).join(', ')}.`, {
    field: 'class',
    received: code,
  })
}

async function insertRevision(work: Work, characteristicId: string, revision: number, fields: CharacteristicFields): Promise<void> {
  await work.manager.insert(CharacteristicRevisionEntity, {
    ...fields,
    id: work.newId(),
    characteristicId,
    revision,
    state: 'draft',
    releasedAt: null,
    releasedById: null,
  })
}

export function characteristicRoutes(routes: Routes): void {
  routes.list(define.listCharacteristics, characteristicList, characteristicFilters)
  routes.read(define.getCharacteristic, (reader, { params }) => loadCharacteristic(reader, params.id))
  routes.change(define.createCharacteristic, async (work, { body }) => {
    const { code, ...input } = body
    const fields = checkedFields(input, await knownUnits(work.manager))
    await requireClass(work, fields.class, null)
    await requireFreeCode(work, CharacteristicEntity, words, code, null)
    const id = work.newId()
    await work.manager.insert(CharacteristicEntity, { id, code, version: 1, importId: null })
    await insertRevision(work, id, 1, fields)
    work.audit({ action: 'created', subject: words, subjectId: id, after: { code, ...fields } })
    return loadCharacteristic(work.manager, id)
  })
  routes.change(define.updateCharacteristic, async (work, { params, body }) => {
    const { version, ...input } = body
    const fields = checkedFields(input, await knownUnits(work.manager))
    const current = await loadAt(work, CharacteristicEntity, words, params.id, version)
    const draft = await draftOf(work, CharacteristicRevisionEntity, { characteristicId: params.id }, words, current.code)
    await requireClass(work, fields.class, draft.class)
    await work.manager.update(CharacteristicRevisionEntity, { id: draft.id }, fields)
    const before = Object.fromEntries(Object.keys(fields).map((key) => [key, draft[key as keyof CharacteristicFields]]))
    work.audit({ action: 'draft changed', subject: words, subjectId: params.id, before, after: fields })
    await work.manager.update(CharacteristicEntity, { id: params.id }, { version: version + 1 })
    return loadCharacteristic(work.manager, params.id)
  })
  routes.change(define.releaseCharacteristic, async (work, { params, body }) => {
    await releaseCharacteristic(work, params.id, body.version)
    return loadCharacteristic(work.manager, params.id)
  })
  routes.change(define.reviseCharacteristic, async (work, { params, body }) => {
    const current = await loadAt(work, CharacteristicEntity, words, params.id, body.version)
    const latest = await work.manager.findOneOrFail(CharacteristicRevisionEntity, {
      where: { characteristicId: params.id },
      order: { revision: 'DESC' },
    })
    if (latest.state === 'draft') throw new ServerError('draft_exists', `${current.code} has a draft already, revision ${latest.revision}.`)
    await insertRevision(work, params.id, latest.revision + 1, { ...latest, details: detailsOf(latest.details) })
    await saveNext(work, CharacteristicEntity, words, `revision ${latest.revision + 1} drafted`, current, {})
    return loadCharacteristic(work.manager, params.id)
  })
  routes.change(define.discardCharacteristic, async (work, { params, body }) => {
    const current = await loadAt(work, CharacteristicEntity, words, params.id, body.version)
    const draft = await draftOf(work, CharacteristicRevisionEntity, { characteristicId: params.id }, words, current.code)
    const plans = draft.revision === 1 ? await plansUsing(work.manager, params.id) : []
    if (plans.length > 0)
      throw new ServerError('still_in_use', `${current.code} stands on ${plans.join(', ')}. Take it off those plans first.`, { plans })
    const { left } = await discardDraft(work, CharacteristicRevisionEntity, { characteristicId: params.id }, draft)
    const { id: _, characteristicId: __, ...before } = draft
    work.audit({
      action: `draft of revision ${draft.revision} discarded`,
      subject: words,
      subjectId: params.id,
      before: { code: current.code, ...before },
    })
    if (left) await work.manager.update(CharacteristicEntity, { id: params.id }, { version: body.version + 1 })
    else await work.manager.delete(CharacteristicEntity, { id: params.id })
    return { left: left ? await loadCharacteristic(work.manager, params.id) : null }
  })
  routes.change(define.retireCharacteristic, async (work, { params, body }) => {
    const current = await loadAt(work, CharacteristicEntity, words, params.id, body.version)
    const released = await releasedOf(work, CharacteristicRevisionEntity, { characteristicId: params.id })
    if (!released) throw new ServerError('already_retired', `${current.code} has no released revision that could be retired.`)
    const plans = await plansUsing(work.manager, params.id)
    if (plans.length > 0)
      throw new ServerError('still_in_use', `${current.code} is asked for by ${plans.join(', ')}. Take it out of those plans first.`, { plans })
    await work.manager.update(CharacteristicRevisionEntity, { id: released.id }, { state: revisionTransitions.retire.to })
    await saveNext(work, CharacteristicEntity, words, `revision ${released.revision} retired`, current, {})
    return loadCharacteristic(work.manager, params.id)
  })
}
