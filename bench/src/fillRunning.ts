import type Database from 'better-sqlite3'
import { v7 } from 'uuid'
import { insertLike } from './fill'

/** So many of each: production orders of two steps, dispatches, transfers, expected deliveries, purchase orders and events of another system. */
const each = 20_000

/**
 * What has run in a plant for years, with an inspection for each step, dispatch and transfer. Written past the server, with foreign keys off:
 * what is measured are lists.
 */
export function fillRunning(database: Database.Database): void {
  const one = (table: string) => database.prepare(`SELECT * FROM ${table} LIMIT 1`).get() as Record<string, unknown>
  const [occasion, inspection] = [one('occasion'), one('inspection')]
  const lots = database.prepare('SELECT id FROM lot').pluck().all() as string[]
  const [part, place, person] = [one('part'), one('place'), one('person')]
  const partner = database.prepare(`SELECT id FROM partner LIMIT 1`).get() as { id: string }
  const operation = database.prepare(`SELECT id FROM operation LIMIT 1`).get() as { id: string }
  const put = (table: string, row: Record<string, unknown>) => insertLike(database, table, row).run(row)
  const putOccasion = insertLike(database, 'occasion', occasion)
  const putInspection = insertLike(database, 'inspection', inspection)
  let numbered = 0
  const occur = (kind: string, at: string, fields: Record<string, unknown> = {}) => {
    const id = v7()
    putOccasion.run({ ...occasion, id, kind, at, partner_id: null, order_number: '', ...fields })
    return id
  }
  const look = (occasionId: string, at: string, isOpen: boolean) => {
    const id = v7()
    const state = isOpen ? 'toDo' : 'decided'
    // Each looks at a lot of its own, as many of them as there are.
    const lotId = lots[numbered % lots.length]
    const row = { ...inspection, id, code: `IR-${(numbered += 1)}`, lot_id: lotId, subject_id: lotId, occasion_id: occasionId, state }
    putInspection.run({ ...row, opened_at: at, finished_at: isOpen ? null : at, verdict: isOpen ? null : 'acceptable' })
  }
  for (let i = 0; i < each; i++) {
    const at = new Date(Date.UTC(2024, 0, 1) + i * 3_000_000).toISOString()
    const isOpen = i >= each - 50
    const orderId = v7()
    put('production_order', {
      id: orderId,
      code: `WX-${i}`,
      part_id: part['id'],
      quantity: 400,
      order_number: `${i}`,
      customer_id: null,
      lot_id: null,
      state: isOpen ? 'released' : 'finished',
      created_at: at,
      released_at: at,
      finished_at: isOpen ? null : at,
      version: 1,
    })
    for (const position of [1, 2]) {
      const [startId, endId] = [occur('stepStarted', at), occur('stepConfirmed', at)]
      const state = isOpen && position === 2 ? 'running' : 'confirmed'
      const made = { good: 400, scrapped: 0, set_aside: 0 }
      put('order_step', { id: v7(), order_id: orderId, position, operation_id: operation.id, state, start_id: startId, end_id: endId, ...made })
      look(endId, at, isOpen && position === 2)
    }
    const dispatchId = occur('dispatch', at, { partner_id: partner.id, order_number: `${i}` })
    const left = isOpen ? { state: 'picked', sent_at: null } : { state: 'sent', sent_at: at }
    put('dispatch', { id: dispatchId, code: `SX-${i}`, ...left, version: 1, leaves_on: null, picked_at: at, picked_by_id: person['id'] })
    const picked = { lot_id: lots[i % lots.length], container_id: null, quantity: 40, from_place_id: place['id'], shipped: isOpen ? null : 40 }
    put('dispatch_pick', { id: v7(), dispatch_id: dispatchId, ...picked })
    look(dispatchId, at, isOpen)
    const transferId = occur('transfer', at, { from_place_id: place['id'], place_id: place['id'] })
    put('transfer', {
      id: transferId,
      code: `TX-${i}`,
      lot_id: lots[i % lots.length],
      container_id: null,
      quantity: 10,
      standing: 'released',
      rule_id: null,
    })
    look(transferId, at, false)
    const announcedId = occur('deliveryAnnounced', at, { partner_id: partner.id, order_number: `${i}` })
    put('expected_delivery', {
      id: v7(),
      code: `EX-${i}`,
      supplier_id: partner.id,
      order_number: `${i}`,
      expected_on: at.slice(0, 10),
      state: isOpen ? 'announced' : 'received',
      announced_id: announcedId,
      registered_id: null,
      carrier: '',
      vehicle: '',
      driver: '',
      seal: '',
      load_number: '',
      reason: '',
      version: 1,
    })
    put('purchase_order', {
      id: v7(),
      supplier_id: partner.id,
      order_number: `PX-${i}`,
      contract: '',
      is_closed: isOpen ? 0 : 1,
      entered_at: at,
      person_id: person['id'],
      version: 1,
    })
    put('feed_event', {
      id: v7(),
      key: `FX-${i}`,
      kind: 'delivery',
      body: '{}',
      sent: null,
      state: isOpen ? 'aside' : 'taken',
      code: null,
      facts: '{}',
      reason: '',
      subject_kind: null,
      subject_id: null,
      subject_code: null,
      received_at: at,
      taken_at: isOpen ? null : at,
      person_id: person['id'],
      version: 1,
    })
  }
}
