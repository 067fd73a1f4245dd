import { endpoints, type Characteristic, type CharacteristicFields } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { loadAt, requireFreeCode, saveNext } from '../kernel/versioned'
import { CharacteristicEntity, CharacteristicRevisionEntity, ImportanceClassEntity, type CharacteristicRevisionRow } from './entities'
import { plansUsing } from './plansUsing'
import { checkedFields, detailsOf } from './checkedFields'
import { pastOf } from './past'
import { releaseCharacteristic } from './releaseCharacteristic'
import { discardDraft, draftOf, releasedOf } from './revisions'
import { usesOf } from './uses'

const { define } = endpoints
const words = 'characteristic'

/** Characteristics that control points ask for on such parts. */
const inspectedOn = (suchParts: string) => `c.id IN (
  SELECT l.characteristic_id FROM part t
  JOIN control_point a ON a.state = 'active' AND (a.part_id = t.id OR (a.part_id IS NULL AND (a.family_id = t.family_id OR a.family_id IS NULL)
    AND EXISTS (SELECT 1 FROM routing_step s WHERE s.part_id = t.id AND s.operation_id = a.operation_id)))
  JOIN plan_revision v ON v.plan_id = a.plan_id AND v.state = 'released' JOIN plan_line l ON l.plan_revision_id = v.id
  WHERE ${suchParts})`

const narrowing = { state: 'r.state = ?', kind: 'r.kind = ?', familyId: inspectedOn('t.family_id = ?') } as const

export async function loadCharacteristic(reader: Reader, id: string): Promise<Characteristic> {
  const row = await reader.findOneBy(CharacteristicEntity, { id })
  if (!row) throw new ServerError('not_found', `There is no characteristic with the id ${id}.`)
  const revisions = (await reader.query(
    `SELECT r.*, p.name AS released_by_name FROM characteristic_revision r LEFT JOIN person p ON p.id = r.released_by_id
     WHERE r.characteristic_id = ? ORDER BY r.revision DESC`,
    [id],
  )) as (Omit<CharacteristicRevisionRow, 'details'> & { details: string | null; releasedByName: string | null })[]
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
  if (code === kept || (await work.manager.existsBy(ImportanceClassEntity, { code, isActive: true }))) return
  const known = await work.manager.findBy(ImportanceClassEntity, { isActive: true })
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
  routes.list(
    define.listCharacteristics,
    {
      // The words and the number of the newest revision are kept ready by triggers of the database.
      from: `characteristic c JOIN characteristic_text w ON w.id = c.id
             JOIN characteristic_revision r ON r.characteristic_id = c.id AND r.revision = w.latest`,
      id: 'c.id',
      columns: {
        id: { sql: 'c.id' },
        code: { sql: 'c.code' },
        name: { sql: 'r.name' },
        kind: { sql: 'r.kind' },
        class: { sql: 'r.class' },
        nominal: { sql: 'r.nominal', isNullable: true },
        lower: { sql: 'r.lower', isNullable: true },
        upper: { sql: 'r.upper', isNullable: true },
        unit: { sql: 'r.unit', isNullable: true },
        resolution: { sql: 'r.resolution', isNullable: true },
        acceptableState: { sql: 'r.acceptable_state', isNullable: true },
        revision: { sql: 'r.revision', kind: 'number' },
        state: { sql: 'r.state' },
      },
      search: ['w.words'],
      searchAlso: [inspectedOn(`(t.code || ' ' || t.name) LIKE ? ESCAPE '\\'`)],
      sort: ['code', 'asc'],
    },
    (query) =>
      (['state', 'kind', 'familyId'] as const).flatMap((name) => {
        const wanted = query[name]
        return typeof wanted === 'string' ? [{ sql: narrowing[name], values: [wanted] }] : []
      }),
  )
  routes.read(define.getCharacteristic, (reader, { params }) => loadCharacteristic(reader, params.id))
  routes.read(define.getPast, (reader, { params, query }) => pastOf(reader, params.id, query))
  routes.change(define.createCharacteristic, async (work, { body }) => {
    const { code, ...input } = body
    const fields = checkedFields(input)
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
    const fields = checkedFields(input)
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
    await work.manager.update(CharacteristicRevisionEntity, { id: released.id }, { state: 'retired' })
    await saveNext(work, CharacteristicEntity, words, `revision ${released.revision} retired`, current, {})
    return loadCharacteristic(work.manager, params.id)
  })
}
