import { allEndpoints } from '@nemawashi/contract'
import Database from 'better-sqlite3'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { multiply, password, preparePlant } from './fill'
import { Wire, type Row } from './measure'
import { startServer, stopped } from './processes'

const inspections = 100_000
const library = 20_000
/** Goal of the longest wait that anybody has because of somebody else. */
const goalMs = 50

/** What an address needs that does not come from its own list. */
const queries: Readonly<Record<string, string>> = {
  '/api/v1/library/export': 'format=xlsx',
  '/api/v1/plan-exchange/export': 'format=xlsx',
  '/api/v1/queue-facets': 'state=toDo',
  '/api/v1/search': 'q=LX-19',
}
const more = [
  '/api/v1/library/export?format=csv',
  '/api/v1/library/export?format=json',
  '/api/v1/inspections.csv',
  '/api/v1/audit.csv',
  '/api/v1/characteristics.csv',
]

/** Asks one thing and, beside it, the health of the server every 2 ms: the longest wait for that is what others would have waited. */
async function longestWait(probe: Wire, ask: () => Promise<unknown>): Promise<number> {
  let isDone = false
  let longest = 0
  const probing = (async () => {
    while (!isDone) {
      const before = performance.now()
      await probe.send('GET', '/api/v1/health')
      longest = Math.max(longest, performance.now() - before)
      await new Promise((resolve) => setTimeout(resolve, 2))
    }
  })()
  await ask()
  isDone = true
  await probing
  return longest
}

/** Every address that reads, and the import of a library, in a plant of 100,000 inspections and 20,000 characteristics: how long others wait. */
export async function benchStalls(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  const { inspectionId } = await preparePlant(folder, 10_000)
  multiply(folder, inspections, 3 * inspections)
  // A plant in use has none: its queries are planned by their indices.
  const database = new Database(join(folder, 'nemawashi.sqlite'))
  database.exec('DELETE FROM sqlite_stat1')
  database.close()
  const { base, child } = await startServer(folder)
  const [asker, probe] = [new Wire(base), new Wire(base)]
  await asker.send('POST', '/api/v1/session', { signInName: 'bench', password })
  const rows = Array.from({ length: library }, (_, i) => ({
    code: `C-${String(i).padStart(5, '0')}`,
    name: `Groove ${i} at station ${i % 97}`,
    tolerance: `${5 + (i % 40)} ±0.05`,
    unit: 'mm',
    resolution: '0.01',
  }))
  const waits: [string, number][] = []
  const quiet = await longestWait(probe, () => new Promise((resolve) => setTimeout(resolve, 3000)))
  const time = async (what: string, ask: () => Promise<{ status: number; text: string }>) => {
    let status = 0
    const wait = await longestWait(probe, async () => ({ status } = await ask()))
    waits.push([status < 400 ? what : `${what} (${status})`, wait])
  }
  await time('POST /api/v1/library/check', () => asker.send('POST', '/api/v1/library/check', { rows }))
  await time('POST /api/v1/library/import', () => asker.send('POST', '/api/v1/library/import', { rows }))
  for (const { endpoint } of allEndpoints()) {
    const { method, path } = endpoint
    if (method !== 'GET') continue
    const list = path.slice(0, path.indexOf('/:id'))
    let id = list === '/api/v1/inspections' ? inspectionId : ''
    if (path.includes('/:id') && id === '') {
      const found = await asker.send('GET', `${list}?limit=1`)
      id = found.status === 200 ? ((JSON.parse(found.text) as { rows?: { id: string }[] }).rows?.[0]?.id ?? '') : ''
      if (id === '') continue
    }
    const address = path.replace(':id', id) + (queries[path] ? `?${queries[path]}` : '')
    await time(address.replace(id || ' ', ':id'), () => asker.send('GET', address))
  }
  for (const address of more) await time(address, () => asker.send('GET', address))
  asker.close()
  probe.close()
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  const worst = [...waits].sort(([, a], [, b]) => b - a)
  for (const [what, ms] of worst.slice(0, 12)) console.log(`  ${ms.toFixed(0).padStart(5)} ms  ${what}`)
  const [[what, longest] = ['', NaN]] = worst
  return [
    {
      what: `longest wait of others, of ${waits.length} addresses`,
      ours: `${longest.toFixed(0)} ms, ${what}`,
      bare: `${quiet.toFixed(0)} ms, quiet`,
      ratio: `${(longest / quiet).toFixed(1)} ×`,
      target: `< ${goalMs} ms`,
      isMet: longest < goalMs,
    },
  ]
}
