import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openDatabase, type Database } from '../kernel/work/database'
import { movePlant } from '../kernel/verify/movePlant'
import { UnitOfWork } from '../kernel/work/unitOfWork'
import { verifyPlant } from '../kernel/verify/verifyPlant'
import { loadInspection } from '../inspections/inspections'
import { emptyOnServer, isOnServer } from '../testing/database'
import { digestOf } from '../testing/digestOf'
import { asBefore, unpackOlderPlant } from '../testing/olderPlant'
import { loadPassport } from '../trace/passport/passport'
import { reportCsv } from '../trace/reports/reportCsv'
import { schema, verifications } from './areas'

/** Digits of what the plant said of itself before, in a file of an earlier release. */
const said = JSON.parse(readFileSync(join(import.meta.dirname, '../testing/olderPlant.json'), 'utf8')) as {
  passports: Record<string, string>
  reports: Record<string, string>
}

describe.skipIf(!isOnServer)('a plant that is moved from its file to a server', () => {
  let folder: string
  let place: Awaited<ReturnType<typeof emptyOnServer>>
  let database: Database
  const move = () => movePlant(folder, place.address, schema, { also: verifications }, () => undefined)
  const ids = async (table: string) => (await database.reader.query(`SELECT id, code FROM ${table}`)) as { id: string; code: string }[]
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    unpackOlderPlant(folder)
    place = await emptyOnServer()
    await move()
    database = await openDatabase({ dataFolder: folder, databaseServer: place.address }, schema)
  }, 120_000)
  afterAll(async () => {
    await database.close()
    await place.remove()
    rmSync(folder, { recursive: true })
  })

  it('tells of its lots and inspections what it told before', async () => {
    const passports: Record<string, string> = {}
    for (const { id, code } of await ids('lot')) passports[code] = digestOf(asBefore(await loadPassport(database.reader, id)))
    expect(passports).toEqual(said.passports)
    const reports: Record<string, string> = {}
    for (const { id, code } of await ids('inspection'))
      if (code in said.reports) reports[code] = digestOf([...reportCsv(await loadInspection(database.reader, id))].join('').replace('\uFEFF', ''))
    expect(reports).toEqual(said.reports)
  })

  it('is whole there, goes on with its chain, numbers and ledger, and is whole after that', async () => {
    const unit = new UnitOfWork(database.writer, { now: () => new Date() }, () => crypto.randomUUID())
    const code = await unit.run({ personId: null, key: null, content: '' }, async (work) => {
      work.audit({ action: 'numbered', subject: 'thing', subjectId: 'x' })
      return work.nextCode('L')
    })
    expect((await ids('lot')).map((lot) => lot.code).includes(code)).toBe(false)
    const [movement] = (await database.writer.query('SELECT * FROM movement ORDER BY seq DESC LIMIT 1')) as { seq: number }[]
    await expect(
      database.writer.query(
        `INSERT INTO movement (lot_id, quantity, to_place_id, to_standing, kind, at, person_id)
        SELECT lot_id, 1, to_place_id, to_standing, kind, at, person_id FROM movement WHERE seq = ?`,
        [movement?.seq],
      ),
    ).rejects.toThrow(/more arrives/)
    expect((await verifyPlant(place.address, schema, { also: verifications })).breaks).toEqual([])
  })

  it('is not moved onto another one, nor to what is no server', async () => {
    await expect(move()).rejects.toThrow(/a plant at .* already/)
    await expect(movePlant(folder, 'mysql://x', schema, {}, () => undefined)).rejects.toThrow(/Received "mysql/)
  })
})
