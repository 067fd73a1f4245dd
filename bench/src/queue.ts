import Database from 'better-sqlite3'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { multiply, password, preparePlant } from './fill'
import { median, medianMs, Wire, type Row } from './measure'
import { startServer, stopped } from './processes'
import { inspectionList } from '../../server/src/inspections/repository'

const inspections = 200_000
const planned = 200

/** A part of what is open is planned for the one person of the bench, or taken. */
function plan(folder: string): void {
  const database = new Database(join(folder, 'nemawashi.sqlite'))
  database.exec(`INSERT INTO assignment (id, person_id, day, holder_id, held_at, version)
    SELECT i.id, p.id, '2026-03-02', NULL, NULL, 1 FROM inspection i, (SELECT id FROM person LIMIT 1) p WHERE i.state = 'toDo' LIMIT ${planned}`)
  database.exec('ANALYZE')
  database.close()
}

/** First page of the queue as its own SQL: what is to do, with everything that a row shows, and how many there are. */
async function bareMs(folder: string): Promise<number> {
  const database = new Database(join(folder, 'nemawashi.sqlite'), { readonly: true })
  const { columns, from, id } = inspectionList
  const selected = Object.entries(columns).map(([name, { sql }]) => `${sql} AS "${name}"`)
  const page = `SELECT ${id} FROM inspection i WHERE i.state = 'toDo' ORDER BY i.opened_at DESC, ${id} DESC LIMIT 51`
  const statement = database.prepare(`SELECT ${selected.join()} FROM ${from} WHERE ${id} IN (${page}) ORDER BY i.opened_at DESC, ${id} DESC`)
  const count = database.prepare(`SELECT COUNT(*) FROM inspection i WHERE i.state = 'toDo'`)
  const bare = await medianMs(20, () => [statement.all(), count.get()])
  database.close()
  return bare
}

/** The queue over 200,000 inspections: its first page, the own day, and the ways to narrow it down. */
export async function benchQueue(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  await preparePlant(folder, 100)
  multiply(folder, inspections, inspections)
  plan(folder)
  const bare = await bareMs(folder)
  const { base, child } = await startServer(folder)
  const wire = new Wire(base)
  await wire.send('POST', '/api/v1/session', { signInName: 'bench', password })
  const timed = async (path: string): Promise<number> => {
    const runs: number[] = []
    // A plant's server has answered before; the bare statement is warm, too.
    for (let i = 0; i < 60; i++) await wire.send('GET', path)
    for (let run = 0; run < 5; run++) {
      const taken: number[] = []
      for (let i = 0; i < 8; i++) {
        const began = performance.now()
        const { status } = await wire.send('GET', path)
        if (status !== 200) throw new Error(`${path}: ${status}`)
        taken.push(performance.now() - began)
      }
      runs.push(median(taken.slice(2)))
    }
    return median(runs)
  }
  const pages = [
    ['queue, first page of what is to do', '/api/v1/inspections?state=toDo&limit=50'],
    ['queue, what nobody has yet, by due', '/api/v1/inspections?own=free&sort=dueAt&dir=asc&limit=25'],
    ['queue, ways to narrow down what is open', '/api/v1/queue-facets?state=open'],
    ['queue, planning board', '/api/v1/planning'],
  ] as const
  const rows: Row[] = []
  for (const [what, path] of pages) {
    const ours = await timed(path)
    const ratio = ours / bare
    // The first is what the queue is judged by; the others do more than one page, and may cost a few of it.
    const most = what.endsWith('to do') ? 3 : 12
    rows.push({
      what: `${what}, ${inspections.toLocaleString('en')}`,
      ours: `${ours.toFixed(1)} ms`,
      bare: `${bare.toFixed(1)} ms, first page as SQL`,
      ratio: `${ratio.toFixed(2)} ×`,
      target: `≤ ${most} ×`,
      isMet: ratio <= most,
    })
  }
  wire.close()
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  return rows
}
