import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { password, preparePlant } from './fill'
import { Wire, type Row } from './measure'
import { startServer, stopped } from './processes'
import { readingWriter } from './readingWriter'

const people = 50
const each = 60

/** Readings a second of one person who waits for each answer, and of fifty at once, in turns; each is acknowledged only when it is on disk. */
export async function benchWriters(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  const { inspectionId, lineId } = await preparePlant(folder, 100_000)
  const { base, child } = await startServer(folder)
  const first = new Wire(base)
  await first.send('POST', '/api/v1/session', { signInName: 'bench', password })
  const wires = Array.from({ length: people }, () => {
    const wire = new Wire(base)
    wire.cookie = first.cookie
    return wire
  })
  const writeOne = readingWriter(inspectionId, lineId)
  const write = async (wire: Wire, times: number) => {
    for (let i = 0; i < times; i++) await writeOne(wire)
  }
  const rate = async (run: () => Promise<unknown>, count: number) => {
    const before = performance.now()
    await run()
    return (1000 * count) / (performance.now() - before)
  }
  await write(first, 200)
  const alone: number[] = []
  const together: number[] = []
  for (let round = 0; round < 3; round++) {
    alone.push(await rate(() => write(first, 300), 300))
    together.push(await rate(() => Promise.all(wires.map((wire) => write(wire, each))), people * each))
  }
  for (const wire of [first, ...wires]) wire.close()
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  const [one, many] = [Math.max(...alone), Math.max(...together)]
  return [
    {
      what: `${people} people writing at once`,
      ours: `${Math.round(many)} /s`,
      bare: `${Math.round(one)} /s, one alone`,
      ratio: `${(many / one).toFixed(1)} ×`,
      before: '1 ×',
      target: '≥ 4 ×',
      isMet: many / one >= 4,
    },
  ]
}
