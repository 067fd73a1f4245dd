import { endpoints, type Place } from '@nemawashi/contract'
import type { ApiClient } from '@nemawashi/contract/client'
import { Chance } from './chance'
import { pinRings, surfacePicture, turnedModel } from './drawnDocuments'
import {
  answerLists,
  countUnits,
  families,
  faultCodes,
  instructions,
  judged,
  measured,
  measuredDetails,
  operations,
  others,
  parts,
  partners,
  places,
  reasons,
  type FamilyCode,
} from './plant'
import { planLine, plans } from './plans'

const { define, attach } = endpoints

/** What the rest of the demo needs to find again, by code. */
export interface MasterData {
  readonly id: (code: string) => string
  readonly place: (code: string) => Place
  readonly familyOf: (part: string) => FamilyCode
}

/** Creates families, partners, places, operations, parts, characteristics, plans and control points, as an engineer would. */
export async function seedMaster(engineer: ApiClient): Promise<MasterData> {
  const ids = new Map<string, string>()
  const placeOf = new Map<string, Place>()
  const remember = <T extends { id: string; code: string }>(made: T): T => {
    ids.set(made.code, made.id)
    return made
  }
  const id = (code: string) => {
    const found = ids.get(code)
    if (found === undefined) throw new Error(`The demo has no ${code}.`)
    return found
  }
  for (const [code, name] of families) remember(await engineer.call(define.families.create, { body: { code, name } }))
  for (const { code, name, kind } of partners) remember(await engineer.call(define.partners.create, { body: { code, name, kind, isActive: true } }))
  for (const place of places) {
    const made = (await engineer.call(define.places.create, { body: place })) as Place
    placeOf.set(made.code, remember(made))
  }
  for (const operation of operations) remember(await engineer.call(define.operations.create, { body: operation }))
  for (const [code, name, family, unit, place, routing] of parts) {
    const operationIds = routing.split(' ').map(id)
    const body = { code, name, revision: 'A', unit, tracking: 'lot' as const, familyId: id(family), putAwayPlaceId: id(place), operationIds }
    remember(await engineer.call(define.parts.create, { body: body }))
  }
  const isActive = true
  for (const list of answerLists) remember(await engineer.call(define.answerLists.create, { body: { ...list, isActive } }))
  for (const [code, name] of faultCodes) await engineer.call(define.faultCodes.create, { body: { code, name, isActive } })
  for (const [code, name] of countUnits) await engineer.call(define.countUnits.create, { body: { code, name, isActive } })
  for (const [code, name, purpose] of reasons) await engineer.call(define.reasons.create, { body: { code, name, purpose, isActive } })
  const release = async (made: { id: string; version: number }) => {
    await engineer.call(define.releaseCharacteristic, { params: { id: made.id }, body: { version: made.version } })
  }
  const keep = async (name: string, mediaType: 'image/png' | 'model/gltf-binary', content: Buffer) =>
    (await engineer.call(define.addDocument, { body: { name, mediaType, content: content.toString('base64') } })).id
  const documentIds: Readonly<Record<string, readonly string[]>> = {
    'C-PIND': [await keep('pin 6 × 22.glb', 'model/gltf-binary', turnedModel(pinRings, 'pin'))],
    'C-LOOK': [await keep('even, matt patches, streaks.png', 'image/png', surfacePicture(new Chance(72)))],
  }
  for (const [code, name, cls, nominal, lower, upper, unit, resolution, method] of measured) {
    const body = {
      code,
      name,
      kind: 'measured' as const,
      class: cls,
      method,
      instruction: instructions[code] ?? '',
      nominal,
      lower,
      upper,
      unit,
      resolution,
      acceptableState: null,
      details: { minutesPerPiece: 0.7, ...measuredDetails[code], documentIds: [...(documentIds[code] ?? [])] },
    }
    await release(remember(await engineer.call(define.createCharacteristic, { body })))
  }
  for (const [code, name, cls, acceptableState] of judged) {
    const body = {
      code,
      name,
      kind: 'judged' as const,
      class: cls,
      method: 'By eye and touch',
      instruction: '',
      nominal: null,
      lower: null,
      upper: null,
      unit: null,
      resolution: null,
      acceptableState,
    }
    await release(remember(await engineer.call(define.createCharacteristic, { body })))
  }
  const noLimits = { nominal: null, lower: null, upper: null, unit: null, resolution: null, acceptableState: null }
  for (const { code, name, kind, class: cls, method, details } of others) {
    const isListed = kind === 'coded'
    const body = {
      code,
      name,
      kind,
      class: cls,
      method,
      instruction: instructions[code] ?? '',
      ...noLimits,
      details: { ...details, documentIds: [...(documentIds[code] ?? [])], ...(isListed ? { answerListId: id('AL-LOOK') } : {}) },
    }
    await release(remember(await engineer.call(define.createCharacteristic, { body })))
  }
  for (const { code, name, lines, at } of plans) {
    const plan = await engineer.call(define.createPlan, { body: { code, name, lines: lines.map((line) => planLine(line, id)) } })
    await engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
    for (const {
      family,
      part,
      supplier,
      bay,
      operation = 'RCV',
      moment = 'arrival',
      every = null,
      frequency,
      responsible,
      dueHours = null,
      isGate = true,
      subject,
      ...consequence
    } of at) {
      await engineer.call(attach.createControlPoint, {
        body: {
          operationId: id(operation),
          moment,
          every,
          ...(frequency ? { frequency } : {}),
          ...(responsible ? { responsible } : {}),
          ...(subject ? { subject } : {}),
          dueHours,
          planId: plan.id,
          partId: part === undefined ? null : id(part),
          familyId: family === undefined ? null : id(family),
          supplierId: supplier === undefined ? null : id(supplier),
          holdPlaceId: bay === undefined ? null : id(bay),
          isGate,
          ...consequence,
        },
      })
    }
  }
  await seedDrafts(engineer, id)
  return {
    id,
    place: (code) => placeOf.get(code) as Place,
    familyOf: (part) => (parts.find(([code]) => code === part)?.[2] ?? 'PACKING') as FamilyCode,
  }
}

/** Work in progress: a plan whose line keeps its own limits, and a revision of a characteristic that waits for its release. */
async function seedDrafts(engineer: ApiClient, id: (code: string) => string): Promise<void> {
  const detached = { nominal: '4', lower: '3.95', upper: '4.05', fromRevision: 1 }
  const targets = [{ partId: id('SD-26'), nominal: '4.2', lower: '4.15', upper: '4.25' }]
  const line = planLine(
    ['C-THICK', { kind: 'twoPoints', model: 'series', goodPercent: 1, producersRisk: 0.05, poorPercent: 8, consumersRisk: 0.1 }],
    id,
  )
  await engineer.call(define.createPlan, {
    body: { code: 'RP-63', name: 'Descender plates, 4 mm', lines: [{ ...line, detached, stage: 'before anodising', targets }] },
  })
}
