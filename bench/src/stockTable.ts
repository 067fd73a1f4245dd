import Database from 'better-sqlite3'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { v7 } from 'uuid'
import { insertLike, password, preparePlant } from './fill'
import { median, medianMs, Wire, type Row } from './measure'
import { startServer, stopped } from './processes'
import { stockList } from '../../server/src/run/moving/stockRepository'

const lots = 20_000
const parts = 300

/** Lots of many parts whose pieces went to and fro so often that there are so many movements. */
function fillMovements(folder: string, movements: number): void {
  const database = new Database(join(folder, 'nemawashi.sqlite'))
  database.pragma('synchronous = OFF')
  database.pragma('foreign_keys = OFF')
  const one = (table: string) => database.prepare(`SELECT * FROM ${table} LIMIT 1`).get() as Record<string, unknown>
  const lot = one('lot')
  const place = one('place')['id']
  const person = one('person')['id']
  const other = v7()
  insertLike(database, 'place', one('place')).run({ ...one('place'), id: other, code: 'OTHER' })
  const part = one('part')
  const putPart = insertLike(database, 'part', part)
  const ids = Array.from({ length: parts }, () => v7())
  const putLot = insertLike(database, 'lot', lot)
  const move = database.prepare(
    `INSERT INTO movement (lot_id, quantity, from_place_id, from_standing, to_place_id, to_standing, kind, at, person_id) VALUES (?, 100, ?, ?, ?, 'released', ?, ?, ?)`,
  )
  const each = Math.floor(movements / lots)
  database.transaction(() => {
    for (const [i, id] of ids.entries()) putPart.run({ ...part, id, code: `PX-${i}` })
    for (let i = 0; i < lots; i++) {
      const id = v7()
      const at = new Date(Date.UTC(2024, 0, 1) + i * 600_000).toISOString()
      putLot.run({ ...lot, id, part_id: ids[i % parts], code: `LX-${i}`, quantity: 100, created_at: at, supplier_lot: `S-${(i * 104_729) % 99_991}` })
      move.run(id, null, null, place, 'received', at, person)
      for (let n = 1; n < each; n++) move.run(id, n % 2 === 1 ? place : other, 'released', n % 2 === 1 ? other : place, 'putAway', at, person)
    }
  })()
  database.exec('ANALYZE')
  database.close()
}

/** First page of the stock table, over HTTP and as its own SQL, with so much history behind it. */
async function firstPage(movements: number): Promise<{ ours: number; bare: number }> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  await preparePlant(folder, 100)
  fillMovements(folder, movements)
  const database = new Database(join(folder, 'nemawashi.sqlite'), { readonly: true })
  const { columns, from, where, id } = stockList
  const selected = Object.entries(columns).map(([name, { sql }]) => `${sql} AS "${name}"`)
  const page = `SELECT ${id} FROM ${from} WHERE ${where} ORDER BY t.code, ${id} LIMIT 51`
  const statement = database.prepare(`SELECT ${selected.join()} FROM ${from} WHERE ${id} IN (${page}) ORDER BY t.code, ${id}`)
  const count = database.prepare('SELECT COUNT(*) FROM balance b WHERE b.quantity > 0')
  const bare = await medianMs(20, () => [statement.all(), count.get()])
  database.close()
  const { base, child } = await startServer(folder)
  const wire = new Wire(base)
  await wire.send('POST', '/api/v1/session', { signInName: 'bench', password })
  const taken: number[] = []
  for (let i = 0; i < 12; i++) {
    const began = performance.now()
    const { status } = await wire.send('GET', '/api/v1/stock?limit=50')
    if (status !== 200) throw new Error(`stock: ${status}`)
    taken.push(performance.now() - began)
  }
  wire.close()
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  return { ours: median(taken.slice(2)), bare }
}

/** The stock table reads balances and not the ledger: it costs the same however long the history is. */
export async function benchStockTable(): Promise<Row[]> {
  const short = await firstPage(100_000)
  const long = await firstPage(1_000_000)
  const [ratio, growth] = [long.ours / long.bare, long.ours / short.ours]
  return [
    {
      what: 'stock, first page, 1,000,000 movements',
      ours: `${long.ours.toFixed(1)} ms`,
      bare: `${long.bare.toFixed(1)} ms, the same SQL`,
      ratio: `${ratio.toFixed(2)} ×`,
      target: '≤ 3 ×',
      isMet: ratio <= 3,
    },
    {
      what: 'stock, history of 1,000,000 against 100,000',
      ours: `${long.ours.toFixed(1)} ms`,
      bare: `${short.ours.toFixed(1)} ms`,
      ratio: `${growth.toFixed(2)} ×`,
      target: '< 1.3 ×',
      isMet: growth < 1.3,
    },
  ]
}
