import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describeFinding, describeLine } from '@nemawashi/core'
import Sqlite from 'better-sqlite3'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openSqlite, type SqliteDatabase } from '../kernel/database/sqlite/sqliteDatabase'
import { verifyPlant } from '../kernel/verify/verifyPlant'
import { loadInspection } from '../inspections/inspections'
import { digestOf } from '../testing/digestOf'
import { asBefore, unpackOlderPlant } from '../testing/olderPlant'
import { loadPassport } from '../trace/passport/passport'
import { reportCsv } from '../trace/reports/reportCsv'
import { schema, verifications } from './areas'

/** Digits of what the earlier release itself said of its plant. */
const said = JSON.parse(readFileSync(join(import.meta.dirname, '../testing/olderPlant.json'), 'utf8')) as {
  passports: Record<string, string>
  reports: Record<string, string>
}

let folder: string
let file: string
let database: SqliteDatabase
let before: { findings: Record<string, string>; samples: unknown[] }
const ids = async (table: string) => (await database.reader.query(`SELECT id, code FROM ${table} ORDER BY id`)) as { id: string; code: string }[]

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
  file = unpackOlderPlant(folder)
  const older = new Sqlite(file)
  const findings = older.prepare('SELECT id, finding FROM inspection WHERE finding IS NOT NULL').all() as { id: string; finding: string }[]
  before = {
    findings: Object.fromEntries(findings.map(({ id, finding }) => [id, finding])),
    samples: older.prepare('SELECT samplingReasoning FROM inspection_line ORDER BY inspectionId, position').pluck().all(),
  }
  older.close()
  database = await openSqlite(folder, schema)
}, 60_000)
afterAll(async () => {
  await database.close()
  rmSync(folder, { recursive: true })
})

describe('a plant of an earlier release, taken along', () => {
  it('tells of every lot what it told before: its life, where its pieces are, its movements', async () => {
    const passports: Record<string, string> = {}
    for (const { id, code } of await ids('lot')) passports[code] = digestOf(asBefore(await loadPassport(database.reader, id)))
    expect(passports).toEqual(said.passports)
  })

  it('reports of every inspection the readings that it reported before', async () => {
    const reports: Record<string, string> = {}
    for (const { id, code } of await ids('inspection'))
      if (code in said.reports) reports[code] = digestOf([...reportCsv(await loadInspection(database.reader, id))].join('').replace('\uFEFF', ''))
    expect(Object.keys(reports).length).toBeGreaterThan(50)
    expect(reports).toEqual(said.reports)
  })

  it('says of its findings and samples, word for word, what it said before', async () => {
    const found = []
    for (const { id } of await ids('inspection')) found.push(await loadInspection(database.reader, id))
    expect(found.flatMap(({ lines }) => lines.map((line) => line.samplingReasoning))).toEqual(before.samples)
    expect(Object.keys(before.findings).length).toBeGreaterThan(50)
    for (const [id, finding] of Object.entries(before.findings)) {
      const { reasoning, lines } = JSON.parse(finding) as { reasoning: string; lines: { reasoning: string }[] }
      const now = found.find((inspection) => inspection.id === id)?.finding
      expect(now && [describeFinding(now), ...now.lines.map(describeLine)]).toEqual([reasoning, ...lines.map((line) => line.reasoning)])
    }
  })

  it('has every measured value as a number on its series, and who holds what', async () => {
    const [row] = (await database.reader.query(
      `SELECT COUNT(*) AS n, SUM(r.number IS NULL) AS missing, SUM(r.number <> CAST(r.value AS REAL)) AS wrong FROM reading r
       JOIN inspection_line l ON l.id = r.line_id JOIN characteristic_revision c ON c.id = l.characteristic_revision_id WHERE c.kind = 'measured' AND r.value IS NOT NULL`,
    )) as { n: number; missing: number; wrong: number }[]
    expect(row).toMatchObject({ missing: 0, wrong: 0 })
    expect(row?.n).toBeGreaterThan(1000)
    // Lots whose inspections are not settled have an open hold, and only they.
    const lots = async (sql: string) => ((await database.reader.query(sql)) as { lotId: string }[]).map(({ lotId }) => lotId)
    expect(await lots('SELECT DISTINCT lot_id FROM hold WHERE closed_at IS NULL ORDER BY 1')).toEqual(
      await lots(`SELECT DISTINCT lot_id FROM inspection WHERE is_gate = 1 AND state IN ('toDo', 'started', 'finished') ORDER BY 1`),
    )
  })

  it('is whole: the chain, every row, and the balances as the sum of the movements', async () => {
    expect((await verifyPlant(file, schema, { also: verifications })).breaks).toEqual([])
  })
})
