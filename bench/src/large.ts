import { pragmas } from '@nemawashi/server'
import Database from 'better-sqlite3'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { multiply, password, preparePlant } from './fill'
import { medianMs, Wire, type Row } from './measure'
import { startServer, stopped } from './processes'

const inspections = 200_000
const readings = 1_000_000
const bareSql = `SELECT i.id, i.code, i.state, p.name AS plan_name, t.code AS part_code, t.name AS part_name, l.code AS lot_code, s.name AS supplier_name, i.lot_size, i.is_gate, i.opened_at, i.finished_at,
  i.verdict, i.answered, i.asked, IFNULL((SELECT MAX(n.sample_size) || CASE WHEN MAX(n.sample_size) = 1 THEN ' piece, ' ELSE ' pieces, ' END || COUNT(*) || CASE WHEN COUNT(*) = 1 THEN ' line' ELSE ' lines' END FROM inspection_line n WHERE n.inspection_id = i.id), '') AS sample_words
  FROM inspection i JOIN lot l ON l.id = i.lot_id JOIN part t ON t.id = l.part_id JOIN partner s ON s.id = l.supplier_id JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id
  WHERE i.state = 'toDo' ORDER BY i.opened_at DESC, i.id DESC LIMIT 101`
const bareCount = `SELECT COUNT(*) AS total FROM inspection i WHERE i.state = 'toDo'`

/** A database of 200,000 inspections and 1,000,000 readings: the first page of the queue, and the memory after every view was browsed. */
export async function benchLarge(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  await preparePlant(folder, 100)
  multiply(folder, inspections, readings)
  const { base, child } = await startServer(folder)
  const wire = new Wire(base)
  await wire.send('POST', '/api/v1/session', { signInName: 'bench', password })
  const get = async (path: string) => {
    const { status, text } = await wire.send('GET', path)
    if (status !== 200) throw new Error(`${path}: ${status} ${text.slice(0, 300)}`)
    return text
  }
  const database = new Database(join(folder, 'nemawashi.sqlite'), { readonly: true })
  for (const pragma of pragmas.slice(2)) database.pragma(pragma)
  const page = database.prepare(bareSql)
  const total = database.prepare(bareCount)
  const oursTimes: number[] = []
  const bareTimes: number[] = []
  // Taken in turns, so that whatever the machine does meanwhile hits both.
  for (let round = 0; round < 6; round++) {
    oursTimes.push(await medianMs(200, () => get('/api/v1/inspections?state=toDo')))
    bareTimes.push(await medianMs(200, () => [total.get(), page.all()]))
  }
  const oursMs = Math.min(...oursTimes)
  const bareMs = Math.min(...bareTimes)
  database.close()

  const rss = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024
  let highest = rss()
  for (let round = 0; round < 3; round++) {
    for (const list of [
      'inspections',
      'inspections?state=decided',
      'lots',
      'deliveries',
      'held',
      'parts',
      'places',
      'partners',
      'operations',
      'families',
      'characteristics',
      'plans',
      'control-points',
      'people',
      'audit',
    ]) {
      let after: string | null = null
      for (let pageNumber = 0; pageNumber < 5; pageNumber++) {
        const { next, rows } = JSON.parse(
          await get(`/api/v1/${list}${list.includes('?') ? '&' : '?'}limit=200${after === null ? '' : `&after=${after}`}`),
        ) as { next: string | null; rows: { id: string }[] }
        if (list === 'lots') for (const { id } of rows.slice(0, 10)) await get(`/api/v1/lots/${id}/passport`)
        if (list.startsWith('inspections'))
          for (const { id } of rows.slice(0, 5)) await Promise.all([get(`/api/v1/inspections/${id}`), get(`/api/v1/inspections/${id}/report.pdf`)])
        highest = Math.max(highest, rss())
        after = next
        if (after === null) break
      }
    }
    await get('/api/v1/search?q=LX-1999')
    await get('/api/v1/today')
    await get('/api/v1/audit-verification')
    highest = Math.max(highest, rss())
  }
  wire.close()
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  return [
    {
      what: 'first page of the queue, 200,000 inspections',
      ours: `${oursMs.toFixed(2)} ms`,
      bare: `${bareMs.toFixed(2)} ms`,
      ratio: `${(oursMs / bareMs).toFixed(2)} ×`,
      before: '5.3 ×',
      target: '≤ 3 ×',
      isMet: oursMs / bareMs <= 3,
    },
    {
      what: 'server memory, 1,000,000 readings, every view browsed',
      ours: `${highest.toFixed(0)} MB`,
      bare: '–',
      ratio: '–',
      before: '237 MB',
      target: '< 230 MB',
      isMet: highest < 230,
    },
  ]
}
