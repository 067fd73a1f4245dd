import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import Database from 'better-sqlite3'
import { join } from 'node:path'
import { v7 } from 'uuid'
import { startServer, stopped } from './processes'

const { people, define, attach, run } = endpoints
export const password = 'a-bench-password'

/** A plant with one part, one plan of one measured line of 10,000 pieces (every piece), and one open inspection on it. */
export async function preparePlant(folder: string, lotSize: number): Promise<{ inspectionId: string; lineId: string }> {
  const { base, code, child } = await startServer(folder)
  const client = new ApiClient(base)
  await client.call(people.createFirstAdministrator, { body: { code, name: 'Bench', initials: 'B', signInName: 'bench', password } })
  const me = (await client.call(people.listPeople, {})).rows[0]
  await client.call(people.updatePerson, {
    params: { id: me?.id ?? '' },
    body: {
      name: 'Bench',
      initials: 'B',
      signInName: 'bench',
      roles: ['administrator', 'inspector', 'receivingClerk', 'qualityEngineer', 'qualityManager'],
      isActive: true,
      password: null,
      version: me?.version ?? 1,
    },
  })
  const make = async (area: typeof define.families, body: object) =>
    (await client.call(area.create, { body: body as never })) as { id: string; version: number }
  const supplier = await make(define.partners as never, { code: 'S', name: 'Supplier', kind: 'supplier', isActive: true })
  const bay = await make(define.places as never, { code: 'BAY', name: 'Bay', purpose: 'inspection', countsForPlanning: false })
  const receiving = await make(define.operations as never, { code: 'RCV', name: 'Receiving', kind: 'receiving' })
  const part = await make(define.parts as never, {
    code: 'P',
    name: 'Part',
    revision: 'A',
    unit: 'piece',
    tracking: 'lot',
    familyId: null,
    putAwayPlaceId: null,
    operationIds: [receiving.id],
  })
  const fields = {
    name: 'Gap',
    kind: 'measured' as const,
    class: 'major' as const,
    method: '',
    instruction: '',
    nominal: null,
    lower: '0.25',
    upper: '0.35',
    unit: 'mm',
    resolution: '0.01',
    acceptableState: null,
  }
  const characteristic = await client.call(define.createCharacteristic, { body: { code: 'C', ...fields } })
  await client.call(define.releaseCharacteristic, { params: { id: characteristic.id }, body: { version: 1 } })
  const plan = await client.call(define.createPlan, {
    body: {
      code: 'PL',
      name: 'Plan',
      lines: [{ characteristicId: characteristic.id, sampling: { kind: 'everyPiece', accept: 0 }, isRequired: true, isDecisive: false }],
    },
  })
  await client.call(define.releasePlan, { params: { id: plan.id }, body: { version: 1 } })
  await client.call(attach.createControlPoint, {
    body: { operationId: receiving.id, planId: plan.id, partId: part.id, familyId: null, supplierId: null, holdPlaceId: bay.id, isGate: true },
  })
  const delivery = await client.call(run.receiveDelivery, {
    body: { supplierId: supplier.id, orderNumber: '1', lines: [{ partId: part.id, supplierLot: 'S', quantity: lotSize, containers: [] }] },
  })
  const inspectionId = delivery.lots[0]?.inspections[0]?.id ?? ''
  const inspection = await client.call(endpoints.record.getInspection, { params: { id: inspectionId } })
  await stopped(child)
  return { inspectionId, lineId: inspection.lines[0]?.id ?? '' }
}

/** The statement that adds a row with the columns of this one. */
export function insertLike(database: Database.Database, table: string, row: Record<string, unknown>): Database.Statement {
  const columns = Object.keys(row)
  return database.prepare(`INSERT INTO ${table} (${columns.map((name) => `"${name}"`).join()}) VALUES (${columns.map((name) => `@${name}`).join()})`)
}

/** Copies the plant's one lot and inspection until there are so many inspections and readings; all decided but the last few hundred. */
export function multiply(folder: string, inspections: number, readings: number): void {
  const database = new Database(join(folder, 'nemawashi.sqlite'))
  database.pragma('synchronous = OFF')
  const one = <T>(sql: string) => database.prepare(sql).get() as T
  const lot = one<Record<string, unknown>>('SELECT * FROM lot LIMIT 1')
  const inspection = one<Record<string, unknown>>('SELECT * FROM inspection LIMIT 1')
  const line = one<Record<string, unknown>>('SELECT * FROM inspection_line LIMIT 1')
  const { id: personId } = one<{ id: string }>('SELECT id FROM person LIMIT 1')
  const place = one<{ id: string }>('SELECT id FROM place LIMIT 1')
  const insert = (table: string, row: Record<string, unknown>) => insertLike(database, table, row)
  const putLot = insert('lot', lot)
  const putInspection = insert('inspection', inspection)
  const putLine = insert('inspection_line', line)
  const putMovement = database.prepare(
    `INSERT INTO movement (lot_id, quantity, to_place_id, to_standing, kind, at, person_id) VALUES (?, 100, ?, 'released', 'received', ?, ?)`,
  )
  const putReading = database.prepare(
    `INSERT INTO reading (id, inspection_id, line_id, piece, correction, value, mark, is_confirmed_outside, typed_at, at, person_id)
     VALUES (?, ?, ?, ?, 0, '0.30', 'conforming', 0, ?, ?, ?)`,
  )
  const each = Math.ceil(readings / inspections)
  const open = 400
  database.transaction(() => {
    let lotId = ''
    const delivery = one<Record<string, unknown>>(`SELECT * FROM occasion WHERE kind = 'delivery' LIMIT 1`)
    const putDelivery = insert('occasion', delivery)
    const paper = one<Record<string, unknown>>('SELECT * FROM delivery LIMIT 1')
    const putPaper = insert('delivery', paper)
    for (let i = 0; i < inspections; i++) {
      const at = new Date(Date.UTC(2024, 0, 1) + i * 300_000).toISOString()
      if (i % 10 === 0) {
        lotId = v7()
        const originId = v7()
        putDelivery.run({ ...delivery, id: originId, at })
        putPaper.run({ ...paper, id: originId, code: `DX-${i}` })
        putLot.run({ ...lot, id: lotId, origin_id: originId, code: `LX-${i}`, quantity: 100, created_at: at })
        putMovement.run(lotId, place.id, at, personId)
      }
      const id = v7()
      const lineId = v7()
      const isOpen = i >= inspections - open
      putInspection.run({
        ...inspection,
        id,
        code: `IX-${i}`,
        lot_id: lotId,
        subject_id: lotId,
        state: isOpen ? (i % 4 === 0 ? 'started' : 'toDo') : 'decided',
        opened_at: at,
        finished_at: isOpen ? null : at,
        verdict: isOpen ? null : 'acceptable',
        lot_size: 100,
        asked: each,
        answered: isOpen ? 0 : each,
      })
      putLine.run({ ...line, id: lineId, inspection_id: id, sample_size: each })
      for (let piece = 1; piece <= each; piece++) putReading.run(v7(), id, lineId, piece, at, at, personId)
    }
  })()
  database.exec('ANALYZE')
  database.close()
}
