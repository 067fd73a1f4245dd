import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { password, preparePlant } from './fill'
import { medianMs, Wire, type Row } from './measure'
import { startServer, stopped } from './processes'

const size = 20_000
const subjects = ['Bore', 'Groove', 'Wall', 'Thread', 'Edge', 'Face', 'Slot', 'Rib', 'Pin', 'Seat']

/** A library of 20,000 characteristics, brought in by one import: how long a search takes, over HTTP. */
export async function benchLibrary(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  await preparePlant(folder, 10)
  const { base, child } = await startServer(folder)
  const wire = new Wire(base)
  await wire.send('POST', '/api/v1/session', { signInName: 'bench', password })
  const rows = Array.from({ length: size }, (_, i) => ({
    code: `C-${String(i).padStart(5, '0')}`,
    name: `${subjects[i % 10]} ${i} at station ${i % 97}`,
    tolerance: `${5 + (i % 40)} ±0.05`,
    unit: 'mm',
    resolution: '0.01',
  }))
  const began = performance.now()
  const { status, text } = await wire.send('POST', '/api/v1/library/import', { rows })
  if (status !== 200) throw new Error(`${status} ${text.slice(0, 300)}`)
  const importMs = performance.now() - began
  const searches = ['Groove', 'station 51', 'C-0123', '19999', 'nothing like it']
  let at = 0
  const searchTimes: number[] = []
  const bareTimes: number[] = []
  for (let round = 0; round < 5; round++) {
    searchTimes.push(
      await medianMs(40, () =>
        wire.send('GET', `/api/v1/characteristics?limit=50&q=${encodeURIComponent(searches[at++ % searches.length] as string)}`),
      ),
    )
    bareTimes.push(await medianMs(40, () => wire.send('GET', '/api/v1/characteristics?limit=50')))
  }
  const [searchMs, bareMs] = [Math.min(...searchTimes), Math.min(...bareTimes)]
  wire.close()
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  return [
    {
      what: `search in ${size.toLocaleString('en')} characteristics`,
      ours: `${searchMs.toFixed(1)} ms`,
      bare: `${bareMs.toFixed(1)} ms`,
      ratio: `${(searchMs / bareMs).toFixed(1)} ×`,
      target: '< 30 ms',
      isMet: searchMs < 30,
    },
    {
      what: `import of ${size.toLocaleString('en')} rows, checked and written`,
      ours: `${(importMs / 1000).toFixed(1)} s`,
      bare: '–',
      ratio: '–',
      target: '< 60 s',
      isMet: importMs < 60_000,
    },
  ]
}
