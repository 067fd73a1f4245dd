import { allEndpoints } from '@nemawashi/contract'
import Database from 'better-sqlite3'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { v7 } from 'uuid'
import { insertLike, password, preparePlant } from './fill'
import { fillRunning } from './fillRunning'
import { median, Wire, type Row } from './measure'
import { startServer, stopped } from './processes'

const lots = 100_000
const lotsOfADelivery = 5
const entries = 500_000
/** What lots are of, and where they lie. */
const ofEach = { part: 211, place: 40 } as const
const maxMs = 60

/** 100,000 lots of 20,000 deliveries, each with an inspection, 500,000 entries of the chain, and what has run besides. */
function fillPlant(folder: string): void {
  const database = new Database(join(folder, 'nemawashi.sqlite'))
  database.pragma('synchronous = OFF')
  database.pragma('foreign_keys = OFF')
  const one = (table: string) => database.prepare(`SELECT * FROM ${table} LIMIT 1`).get() as Record<string, unknown>
  const insert = (table: string, row: Record<string, unknown>) => insertLike(database, table, row)
  const rows = {
    occasion: one('occasion'),
    delivery: one('delivery'),
    lot: one('lot'),
    inspection: one('inspection'),
    audit: one('audit'),
    part: one('part'),
    place: one('place'),
    person: one('person'),
  }
  const put = {
    occasion: insert('occasion', rows.occasion),
    delivery: insert('delivery', rows.delivery),
    lot: insert('lot', rows.lot),
    inspection: insert('inspection', rows.inspection),
    audit: insert('audit', rows.audit),
  }
  const move = database.prepare(
    `INSERT INTO movement (lot_id, quantity, to_place_id, to_standing, kind, at, person_id) VALUES (?, 100, ?, ?, 'received', ?, ?)`,
  )
  const many = (table: 'part' | 'place') =>
    Array.from({ length: ofEach[table] }, (_, i) => {
      const id = v7()
      insert(table, rows[table]).run({ ...rows[table], id, code: `${table.toUpperCase()}-${i}`, name: `${table} ${i}` })
      return id
    })
  const [parts, places] = [many('part'), many('place')]
  const { next } = database.prepare('SELECT MAX(seq) + 1 AS next FROM audit').get() as { next: number }
  database.transaction(() => {
    let originId = ''
    for (let i = 0; i < lots; i++) {
      const at = new Date(Date.UTC(2024, 0, 1) + i * 600_000).toISOString()
      if (i % lotsOfADelivery === 0) {
        originId = v7()
        put.occasion.run({ ...rows.occasion, id: originId, at, order_number: `O-${(i * 7919) % 99_991}` })
        put.delivery.run({ ...rows.delivery, id: originId, code: `DX-${i}` })
      }
      const id = v7()
      put.lot.run({
        ...rows.lot,
        id,
        code: `LX-${i}`,
        part_id: parts[i % parts.length],
        origin_id: originId,
        quantity: 100 + (i % 50),
        created_at: at,
        supplier_lot: `S-${(i * 104_729) % 99_991}`,
      })
      move.run(id, places[i % places.length], i % 50 === 0 ? 'onHold' : 'released', at, rows.person['id'])
      const state = i % 40 === 0 ? 'toDo' : i % 40 === 1 ? 'finished' : 'decided'
      put.inspection.run({
        ...rows.inspection,
        id: v7(),
        code: `IX-${i}`,
        lot_id: id,
        subject_id: id,
        state,
        opened_at: at,
        finished_at: state === 'toDo' ? null : at,
        verdict: state === 'toDo' ? null : 'acceptable',
      })
    }
    for (let i = 0; i < entries; i++)
      put.audit.run({
        ...rows.audit,
        seq: next + i,
        at: new Date(Date.UTC(2024, 0, 1) + i * 120_000).toISOString(),
        action: ['recorded', 'received', 'released', 'signed in'][i % 4],
        subject_id: v7(),
        rows: null,
      })
    fillRunning(database)
  })()
  database.exec('ANALYZE')
  database.close()
}

/** Every list of the API at that size: its first page, sorted by each of its columns, and looked through by a word; the slowest of each kind. */
export async function benchLists(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  await preparePlant(folder, 100)
  fillPlant(folder)
  const { base, child } = await startServer(folder)
  const wire = new Wire(base)
  await wire.send('POST', '/api/v1/session', { signInName: 'bench', password })
  const time = async (path: string) => {
    const taken: number[] = []
    for (let i = 0; i < 3; i++) {
      const began = performance.now()
      const { status, text } = await wire.send('GET', path)
      if (status !== 200) throw new Error(`${path}: ${status} ${text.slice(0, 200)}`)
      taken.push(performance.now() - began)
    }
    return { path, ms: median(taken) }
  }
  const found = {
    'first page': [] as { path: string; ms: number }[],
    'sorted by a column': [] as { path: string; ms: number }[],
    'looked through for a word': [] as { path: string; ms: number }[],
  }
  for (const { endpoint } of allEndpoints()) {
    const columns = Object.keys(endpoint.reply._zod.def.type === 'object' ? rowOf(endpoint.reply) : {})
    if (endpoint.method !== 'GET' || columns.length === 0) continue
    found['first page'].push(await time(endpoint.path))
    for (const column of columns)
      for (const dir of ['asc', 'desc']) found['sorted by a column'].push(await time(`${endpoint.path}?sort=${column}&dir=${dir}`))
    found['looked through for a word'].push(await time(`${endpoint.path}?q=7777`), await time(`${endpoint.path}?q=nowhere`))
  }
  wire.close()
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  return Object.entries(found).map(([what, times]) => {
    const sorted = [...times].sort((a, b) => b.ms - a.ms)
    const [worst] = sorted
    if (process.env['BENCH_ALL']) for (const { path, ms } of sorted.slice(0, 25)) console.log(`  ${ms.toFixed(0).padStart(5)} ms  ${path}`)
    const slow = times.filter(({ ms }) => ms > maxMs).length
    return {
      what: `lists, ${what}: slowest of ${times.length}`,
      ours: `${worst?.ms.toFixed(0)} ms, ${slow} over`,
      bare: worst?.path.slice(8, 30) ?? '',
      ratio: '–',
      target: `< ${maxMs} ms`,
      isMet: slow === 0,
    }
  })
}

/** The columns of a list's rows; none where the answer is no list. */
function rowOf(reply: unknown): object {
  const shape = (reply as { shape?: Record<string, { element?: { shape?: object } }> }).shape
  return shape?.['next'] === undefined ? {} : (shape['rows']?.element?.shape ?? {})
}
