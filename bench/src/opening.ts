import { considerPoints } from '@nemawashi/core'
import Database from 'better-sqlite3'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { v7 } from 'uuid'
import { insertLike, password, preparePlant } from './fill'
import { median, medianMs, Wire, type Row } from './measure'
import { startServer, stopped } from './processes'

const points = 5_000
const lines = 500
const linesAlike = 490

/** So many control points in force at the receiving of as many parts, with every tenth for a family; the first one looks at one lot in three. */
function fillPoints(folder: string): string[] {
  const database = new Database(join(folder, 'nemawashi.sqlite'))
  database.pragma('foreign_keys = OFF')
  const one = (table: string) => database.prepare(`SELECT * FROM ${table} LIMIT 1`).get() as Record<string, unknown>
  const rows = {
    place: one('place'),
    part: one('part'),
    step: one('routing_step'),
    point: one('control_point'),
    family: { id: v7(), code: 'F', name: 'F', version: 1 },
  }
  const put = {
    part: insertLike(database, 'part', rows.part),
    step: insertLike(database, 'routing_step', rows.step),
    point: insertLike(database, 'control_point', rows.point),
    family: insertLike(database, 'family', rows.family),
    place: insertLike(database, 'place', rows.place),
  }
  const parts: string[] = []
  database.transaction(() => {
    put.family.run(rows.family)
    // Where lots go that nobody looks at.
    put.place.run({ ...rows.place, id: v7(), code: 'DOCK', purpose: 'dock' })
    for (let i = 0; i < points; i++) {
      const id = v7()
      parts.push(id)
      put.part.run({ ...rows.part, id, code: `PX-${i}`, family_id: i % 10 === 0 ? rows.family.id : null })
      put.step.run({ ...rows.step, ...('id' in rows.step ? { id: v7() } : {}), part_id: id })
      const frequency = i === 0 ? JSON.stringify({ kind: 'oneIn', k: 3 }) : rows.point['frequency']
      put.point.run({
        ...rows.point,
        id: v7(),
        code: `CX-${i}`,
        part_id: id,
        frequency,
        supplier_id: i % 100 === 1 ? rows.point['supplier_id'] : null,
      })
    }
  })()
  database.close()
  return parts
}

/** What a line opens with thousands of control points in force: in the core, and a long delivery through the server. */
export async function benchOpening(): Promise<Row[]> {
  const reaches = Array.from({ length: points }, (_, i) => ({
    id: `p${i}`,
    planId: `plan${i % 400}`,
    partId: i % 10 === 0 ? null : `part${i % 900}`,
    familyId: i % 20 === 0 ? `family${i % 30}` : null,
    supplierId: i % 7 === 0 ? `supplier${i % 40}` : null,
    customerId: null,
    supplierGroup: null,
    contract: null,
  }))
  const subject = { partId: 'part11', familyId: 'family20', supplierId: 'supplier7', customerId: null, supplierGroup: null, contract: null }
  const ours = await medianMs(300, () => considerPoints(reaches, subject))
  const bare = await medianMs(300, () => reaches.filter((reach) => reach.partId === subject.partId || reach.partId === null).length)
  const core: Row = {
    what: 'what a line opens, 5,000 control points, core',
    ours: `${ours.toFixed(2)} ms`,
    bare: `${bare.toFixed(3)} ms, one filter`,
    ratio: `${(ours / bare).toFixed(0)} ×`,
    target: '< 2 ms',
    isMet: ours < 2,
  }

  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  await preparePlant(folder, 100)
  const parts = fillPoints(folder)
  const { base, child } = await startServer(folder)
  const wire = new Wire(base)
  await wire.send('POST', '/api/v1/session', { signInName: 'bench', password })
  const { rows } = JSON.parse((await wire.send('GET', '/api/v1/partners')).text) as { rows: { id: string }[] }
  const deliver = async (count: number, from: number, partOf = (i: number) => parts[(from + i * 7) % points]) => {
    const body = {
      supplierId: rows[0]?.id,
      orderNumber: `O-${from}`,
      isAnother: true,
      lines: Array.from({ length: count }, (_, i) => ({
        partId: partOf(i),
        supplierLot: `S-${from}-${i}`,
        quantity: 5,
        containers: [],
      })),
    }
    const began = performance.now()
    const { status, text } = await wire.send('POST', '/api/v1/deliveries', body)
    if (status !== 200) throw new Error(`${status} ${text.slice(0, 300)}`)
    return performance.now() - began
  }
  // A server at work, whose code has been run often enough to be compiled; the first long delivery after a start takes about twice as long.
  for (let i = 0; i < 8; i++) await deliver(lines, i)
  const long: number[] = []
  for (let i = 0; i < 9; i++) long.push(await deliver(lines, 100 + i))
  const short: number[] = []
  for (let i = 0; i < 20; i++) short.push(await deliver(1, 900 + i))
  // Lots of one part, each due or not by those before it: what was counted so far is kept, however many there were.
  const alike: number[] = []
  for (let i = 0; i < 11; i++) alike.push(await deliver(linesAlike, 2000 + i, () => parts[0]))
  wire.close()
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  const [ms, each] = [median(long), median(short)]
  const delivery: Row = {
    what: 'delivery of 500 lines, 5,000 points in force',
    ours: `${ms.toFixed(0)} ms, ${(ms / lines).toFixed(2)} a line`,
    bare: `${each.toFixed(1)} ms, one line`,
    ratio: `${(ms / lines / each).toFixed(2)} ×`,
    target: '< 300 ms',
    isMet: ms < 300,
  }
  const [early, late] = [median(alike.slice(1, 6)), median(alike.slice(6))]
  const ofOnePart: Row = {
    what: 'delivery of 490 lines of one part, one lot in 3',
    ours: `${late.toFixed(0)} ms after ${(6 * linesAlike).toLocaleString('en')} lots`,
    bare: `${early.toFixed(0)} ms after ${linesAlike}`,
    ratio: `${(late / early).toFixed(2)} ×`,
    target: '< 1.3 ×',
    isMet: late / early < 1.3,
  }
  return [core, delivery, ofOnePart]
}
