import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { decideAll, inspect, receive, startPlant, stock, type Plant, type Stock } from '../testing/plant'
import { verifyLedger } from '../run/verifyLedger'
import { verifyChain } from './auditChain'
import { openDatabase } from './database'
import { SampleWords1795614000000 } from './migrations/SampleWords1795614000000'

describe('the database', () => {
  it('as the migrations leave it is exactly what the entities say', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    const database = await openDatabase(folder)
    const { upQueries } = await database.writer.driver.createSchemaBuilder().log()
    await database.close()
    rmSync(folder, { recursive: true })
    expect(upQueries.map((query) => query.query)).toEqual([])
  })

  it('keeps what was acknowledged: WAL, full synchronisation, foreign keys', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    const { writer, reader, close } = await openDatabase(folder)
    const pragma = async (name: string) => Object.values(((await writer.query(`PRAGMA ${name}`)) as object[])[0] ?? {})[0]
    expect([await pragma('journal_mode'), await pragma('synchronous'), await pragma('foreign_keys')]).toEqual(['wal', 2, 1])
    await expect(reader.query(`INSERT INTO counter (name, value) VALUES ('x', 1)`)).rejects.toThrow(/readonly/)
    await close()
    rmSync(folder, { recursive: true })
  })
})

describe('direct SQL', () => {
  let plant: Plant
  let goods: Stock
  let lotId: string
  let spot: { placeId: string }
  beforeAll(async () => {
    plant = await startPlant()
    goods = await stock(plant)
    await goods.point((await goods.plan('PL-1', [{ characteristicId: goods.measured.id }])).id)
    const delivery = await receive(plant, goods, { quantity: 100 })
    lotId = delivery.lots[0]?.id ?? ''
    spot = { placeId: delivery.lots[0]?.balances[0]?.placeId ?? '' }
    await decideAll(plant, await inspect(plant, delivery.lots[0]?.inspections[0]?.id ?? ''))
  })
  afterAll(() => plant.stop())
  const sql = (text: string, values: unknown[] = []) => plant.kernel.database.writer.query(text, values)
  const insert = (quantity: unknown, fromStanding: string | null, toStanding: string) =>
    sql(
      `INSERT INTO movement (lotId, quantity, fromPlaceId, fromStanding, toPlaceId, toStanding, why, at, personId) SELECT ?, ?, ?, ?, ?, ?, 'sql', '', id FROM person LIMIT 1`,
      [lotId, quantity, fromStanding === null ? null : spot.placeId, fromStanding, spot.placeId, toStanding],
    )

  it('of an older release gets the words of its samples from its lines', async () => {
    const words = () => sql('SELECT sampleWords FROM inspection')
    const before = await words()
    expect(before).toEqual([{ sampleWords: '3 pieces, 1 line' }])
    const runner = plant.kernel.database.writer.createQueryRunner()
    const migration = new SampleWords1795614000000()
    await migration.down(runner)
    await migration.up(runner)
    expect(await words()).toEqual(before)
  })

  it('cannot take more out of a spot than is there', async () => {
    await expect(insert(101, 'released', 'used')).rejects.toThrow(/more than there is/)
    await expect(insert(1, 'quarantined', 'used')).rejects.toThrow(/more than there is/)
  })

  it('cannot let more arrive than the lot holds, nor a fraction, nor nothing', async () => {
    await expect(insert(1, null, 'onHold')).rejects.toThrow(/more arrives/)
    await expect(insert(0, 'released', 'used')).rejects.toThrow(/CHECK/)
    await expect(insert(1.5, 'released', 'used')).rejects.toThrow(/CHECK/)
  })

  it('cannot change or delete what was written', async () => {
    for (const table of ['movement', 'reading', 'audit', 'decision', 'decision_part', 'inspection_line']) {
      await expect(sql(`DELETE FROM ${table}`)).rejects.toThrow(/append-only/)
    }
    await expect(sql('UPDATE movement SET quantity = 1')).rejects.toThrow(/append-only/)
    await expect(sql('UPDATE lot SET quantity = 5')).rejects.toThrow(/not changed/)
  })

  it('cannot use or ship pieces that are on hold, nor move a container of another lot', async () => {
    const held = (await receive(plant, goods, { quantity: 20 })).lots[0]
    const other = (await receive(plant, goods, { quantity: 20, containers: [{ label: 'K-01', quantity: 20 }] })).lots[0]
    const move = (containerId: string | null, toStanding: string) =>
      sql(
        `INSERT INTO movement (lotId, containerId, quantity, fromPlaceId, fromStanding, toPlaceId, toStanding, why, at, personId) SELECT ?, ?, 1, ?, 'onHold', ?, ?, 'sql', '', id FROM person LIMIT 1`,
        [held?.id, containerId, held?.balances[0]?.placeId, held?.balances[0]?.placeId, toStanding],
      )
    for (const standing of ['used', 'shipped']) await expect(move(null, standing)).rejects.toThrow(/on hold can be neither used nor shipped/)
    await expect(move(other?.balances[0]?.containerId ?? '', 'released')).rejects.toThrow(/belongs to another lot/)
  })

  it('leaves ledger and chain whole, and a break in either is named', async () => {
    const reader = plant.kernel.database.reader.manager
    expect(await verifyLedger(reader)).toEqual([])
    expect((await verifyChain(reader)).breaks).toEqual([])
    await sql('DROP TRIGGER audit_no_update')
    await sql('DROP TRIGGER audit_no_delete')
    await sql(`UPDATE audit SET after = '{"roles":["administrator"]}' WHERE seq = 3`)
    expect((await verifyChain(reader)).breaks).toEqual([expect.stringMatching(/^entry 3 .* was changed/)])
    await sql('DELETE FROM audit WHERE seq = 5')
    expect((await verifyChain(reader)).breaks).toContain('entries 5 to 5 are missing')
    await sql('DELETE FROM audit WHERE seq = (SELECT MAX(seq) FROM audit)')
    expect((await verifyChain(reader)).breaks.at(-1)).toMatch(/the chain ends at entry/)
    await sql('DROP TRIGGER lot_quantity_stays')
    await sql('UPDATE lot SET quantity = 90 WHERE id = ?', [lotId])
    expect(await verifyLedger(reader)).toEqual([expect.stringMatching(/90 arrived, the ledger adds up to 100/)])
  })
})
