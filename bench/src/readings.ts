import { pragmas } from '@nemawashi/server'
import Database from 'better-sqlite3'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { v7 } from 'uuid'
import { password, preparePlant } from './fill'
import { medianMs, Wire, type Row } from './measure'
import { startProcess, startServer, stopped } from './processes'

const singles = 1500
const batches = 16
const batchSize = 200

/** One reading, and batches of 200, over HTTP with session, validation, unit of work and audit chain; against the bare baseline. */
export async function benchReadings(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  const { inspectionId, lineId } = await preparePlant(folder, 100_000)
  const ours = await startServer(folder)
  const bare = await startProcess('node', ['--import', 'tsx', 'bench/src/bareServer.ts', join(folder, 'bare.sqlite')], {})
  const wire = new Wire(ours.base)
  await wire.send('POST', '/api/v1/session', { signInName: 'bench', password })
  const bareWire = new Wire(bare.base)
  const typedAt = new Date().toISOString()
  let piece = 0
  const reading = () => ({ id: v7(), lineId, piece: ++piece, value: '0.30', typedAt, isConfirmedOutside: false, corrects: null })
  const check = ({ status, text }: { status: number; text: string }) => {
    if (status !== 200) throw new Error(`${status} ${text}`)
  }
  const path = `/api/v1/inspections/${inspectionId}/readings`
  const oursMs: number[] = []
  const bareMs: number[] = []
  // Taken in turns, so that whatever the machine does meanwhile hits both.
  for (let round = 0; round < 5; round++) {
    oursMs.push(await medianMs(singles / 5, async () => check(await wire.send('POST', path, { readings: [reading()] }))))
    bareMs.push(await medianMs(singles / 5, async () => check(await bareWire.send('POST', '/reading', { ...reading(), inspectionId }))))
  }
  const single = Math.min(...oursMs)
  const bareSingle = Math.min(...bareMs)
  const batchTimes: number[] = []
  const bareBatchTimes: number[] = []
  const bareBatch = openBareBatch(join(folder, 'bare-batch.sqlite'), inspectionId, lineId, typedAt)
  for (let round = 0; round < 5; round++) {
    batchTimes.push(
      await medianMs(batches, async () => check(await wire.send('POST', path, { readings: Array.from({ length: batchSize }, reading) }))),
    )
    bareBatchTimes.push(await medianMs(batches, bareBatch.run))
  }
  bareBatch.close()
  const batchMs = Math.min(...batchTimes)
  const bareBatchMs = Math.min(...bareBatchTimes)
  for (const { child } of [ours, bare]) await stopped(child)
  wire.close()
  bareWire.close()
  rmSync(folder, { recursive: true, force: true })
  const share = bareBatchMs / batchMs
  return [
    {
      what: 'one reading over HTTP, median',
      ours: `${single.toFixed(2)} ms`,
      bare: `${bareSingle.toFixed(2)} ms`,
      ratio: `${(single / bareSingle).toFixed(2)} ×`,
      before: '2.20 ×',
      target: '≤ 1.6 ×',
      isMet: single / bareSingle <= 1.6,
    },
    {
      what: `readings in batches of ${batchSize}`,
      ours: `${Math.round((batchSize / batchMs) * 1000)} rows/s`,
      bare: `${Math.round((batchSize / bareBatchMs) * 1000)} rows/s`,
      ratio: `${(100 * share).toFixed(0)} %`,
      before: '17 %',
      target: '≥ 35 %',
      isMet: share >= 0.35,
    },
  ]
}

/** Bare prepared inserts of the same rows, 200 in one transaction, no HTTP. */
function openBareBatch(file: string, inspectionId: string, lineId: string, typedAt: string): { run: () => void; close: () => void } {
  const database = new Database(file)
  for (const pragma of pragmas) database.pragma(pragma)
  database.exec(
    'CREATE TABLE reading (id TEXT PRIMARY KEY, inspectionId TEXT, lineId TEXT, piece INTEGER, correction INTEGER, value TEXT, mark TEXT, isConfirmedOutside INTEGER, typedAt TEXT, at TEXT, personId TEXT)',
  )
  database.exec('CREATE UNIQUE INDEX cell ON reading (inspectionId, lineId, piece, correction)')
  const insert = database.prepare('INSERT INTO reading VALUES (?,?,?,?,?,?,?,?,?,?,?)')
  let piece = 0
  const run = database.transaction(() => {
    for (let i = 0; i < batchSize; i++) insert.run(v7(), inspectionId, lineId, ++piece, 0, '0.30', 'conforming', 0, typedAt, typedAt, 'p')
  })
  return { run, close: () => void database.close() }
}
