import { feedKinds, feedStates, operationKinds, paperKinds, partnerKinds, reasonPurposes, trackings } from '@nemawashi/contract'
import {
  answerPlaces,
  characteristicKinds,
  dispatchStates,
  dispositions,
  expectedStates,
  holdExtents,
  inspectionStates,
  keptFroms,
  moments,
  movementKinds,
  needs,
  nextStandings,
  occasionKinds,
  onFailures,
  placePurposes,
  pointSubjects,
  putAwayMoments,
  reportKinds,
  revisionStates,
  standings,
  subjectKinds,
  whenConformings,
} from '@nemawashi/core'
import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { DataSource } from 'typeorm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { schema } from './areas'
import { decideAll, inspect, receive, startPlant, stock, type Plant, type Stock } from '../testing/plant'
import { openSqlite } from '../kernel/database/sqlite/sqliteDatabase'
import { migrations } from './migrations'
import { verifyPlant } from '../kernel/verify/verifyPlant'
import { onFailures as onFailuresGuarded } from './migrations/HoldMade1799000000000'
import { knownWords } from './migrations/KnownWords1798600000000'
import { standingSteps } from './migrations/StandingSteps1798500000000'

describe('the database', () => {
  it('as the migrations leave it is exactly what the entities say', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    const database = await openSqlite(folder, schema)
    const { upQueries } = await database.source.driver.createSchemaBuilder().log()
    await database.close()
    rmSync(folder, { recursive: true })
    expect(upQueries.map((query) => query.query)).toEqual([])
  })

  it('is not begun anew where a plant was: an empty or vanished one is refused', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    await (await openSqlite(folder, schema)).close()
    writeFileSync(join(folder, 'chain.head'), '{}')
    rmSync(join(folder, 'nemawashi.sqlite'))
    await expect(openSqlite(folder, schema)).rejects.toThrow(/missing, but chain.head beside it shows/)
    writeFileSync(join(folder, 'nemawashi.sqlite'), '')
    await expect(openSqlite(folder, schema)).rejects.toThrow(/empty \(0 bytes\)/)
    rmSync(folder, { recursive: true })
  })

  it('of a newer release is refused, and a current one is left as it is', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    await (await openSqlite(folder, schema)).close()
    const raw = new Sqlite(join(folder, 'nemawashi.sqlite'))
    raw.exec(`INSERT INTO migrations (timestamp, name) VALUES (9, 'Later9')`)
    await expect(openSqlite(folder, schema)).rejects.toThrow(/newer release \(Later9\)/)
    raw.exec(`DELETE FROM migrations WHERE name IN ('Later9')`)
    raw.close()
    await (await openSqlite(folder, schema)).close()
    expect(existsSync(join(folder, 'backups'))).toBe(false)
    rmSync(folder, { recursive: true })
  })

  it('of an older release is copied, brought up to date with all that stands in it, and sealed; also where that was broken off', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    const file = join(folder, 'nemawashi.sqlite')
    const older = await new DataSource({ type: 'better-sqlite3', database: file, migrations: migrations.slice(0, -1) }).initialize()
    await older.runMigrations({ transaction: 'each' })
    await older.query(
      `INSERT INTO person (id, name, initials, sign_in_name, sign_in_key, password_hash, roles, is_active, version) VALUES ('p', 'Old Hand', 'OH', 'old', 'old', 'x', '[]', 1, 1)`,
    )
    await older.destroy()
    await (await openSqlite(folder, schema)).close()
    expect(readdirSync(join(folder, 'backups'))).toEqual([expect.stringMatching(/^before-.*sqlite$/)])
    const raw = new Sqlite(file)
    expect(raw.prepare('SELECT name FROM person').pluck().all()).toEqual(['Old Hand'])
    expect((await verifyPlant(file, schema)).breaks).toEqual([])
    // As if the process had ended after the migrations and before the seals.
    for (const { name } of raw.prepare(`SELECT name FROM sqlite_master WHERE type = 'trigger' AND tbl_name = 'audit'`).all() as { name: string }[])
      raw.exec(`DROP TRIGGER "${name}"`)
    raw.exec('DELETE FROM audit')
    raw.close()
    await (await openSqlite(folder, schema)).close()
    expect((await verifyPlant(file, schema)).breaks.filter((words) => !words.includes('trigger'))).toEqual([])
    rmSync(folder, { recursive: true })
  })

  it('keeps what was acknowledged: WAL, full synchronisation, foreign keys', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    const { writer, reader, close } = await openSqlite(folder, schema)
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
      `INSERT INTO movement (lot_id, quantity, from_place_id, from_standing, to_place_id, to_standing, kind, at, person_id) SELECT ?, ?, ?, ?, ?, ?, 'putAway', '', id FROM person LIMIT 1`,
      [lotId, quantity, fromStanding === null ? null : spot.placeId, fromStanding, spot.placeId, toStanding],
    )

  it('cannot take more out of a spot than is there', async () => {
    await expect(insert(101, 'released', 'used')).rejects.toThrow(/more than there is/)
    await expect(insert(1, 'quarantined', 'scrapped')).rejects.toThrow(/more than there is/)
  })

  it('cannot let more arrive than the lot holds, nor a fraction, nor nothing', async () => {
    await expect(insert(1, null, 'onHold')).rejects.toThrow(/more arrives/)
    await expect(insert(0, 'released', 'used')).rejects.toThrow(/CHECK|check constraint|invalid input/)
    await expect(insert(1.5, 'released', 'used')).rejects.toThrow(/CHECK|check constraint|invalid input/)
  })

  it('cannot take a step between two standings that the core does not take, and every other one', async () => {
    expect(standingSteps).toEqual(nextStandings)
    const steps = standings.flatMap((from) => standings.map((to) => ({ from, to })))
    const refused: string[] = []
    for (const { from, to } of steps) {
      const said = await insert(1_000, from, to).then(
        () => '',
        (error: Error) => error.message,
      )
      if (/from that standing|neither used nor shipped/.test(said)) refused.push(`${from} ${to}`)
    }
    expect(refused).toEqual(steps.filter(({ from, to }) => !nextStandings[from].includes(to)).map(({ from, to }) => `${from} ${to}`))
    expect(refused).toHaveLength(65)
  })

  it('takes no word of a list that the code does not know, and each that it knows', async () => {
    const words = {
      ...knownWords,
      control_point: { ...knownWords['control_point'], on_failure: onFailuresGuarded },
      inspection: { ...knownWords['inspection'], on_failure: onFailuresGuarded },
    }
    expect(words).toEqual({
      partner: { kind: partnerKinds },
      place: { purpose: placePurposes },
      operation: { kind: operationKinds },
      part: { tracking: trackings },
      reason: { purpose: reasonPurposes },
      finer_standing: { standing: standings },
      characteristic_revision: { kind: characteristicKinds, state: revisionStates },
      plan_revision: { state: revisionStates },
      control_point: {
        moment: moments,
        subject: pointSubjects,
        holds: holdExtents,
        on_failure: onFailures,
        when_conforming: whenConformings,
        answered_at: answerPlaces,
        keeps_from: keptFroms,
        need: needs,
        state: ['active', 'retired', 'byHand'],
      },
      inspection: { subject_kind: subjectKinds, state: inspectionStates, on_failure: onFailures, verdict: ['acceptable', 'notAcceptable'] },
      reading: { mark: ['conforming', 'marginal', 'nonconforming', 'notJudged'] },
      occasion: { kind: occasionKinds, moment: [...moments, 'paused', 'resumed'] },
      movement: { from_standing: standings, to_standing: standings, kind: movementKinds },
      hold: { cause_kind: ['inspection'] },
      decision_part: { disposition: dispositions, standing: standings },
      put_away_rule: { standing: standings, moment: putAwayMoments, state: ['active', 'retired'] },
      expected_delivery: { state: expectedStates },
      delivery_paper: { kind: paperKinds },
      production_order: { state: ['planned', 'released', 'finished', 'cancelled'] },
      order_step: { state: ['waiting', 'running', 'confirmed'] },
      step_report: { kind: reportKinds },
      transfer: { standing: standings },
      dispatch: { state: dispatchStates },
      feed_event: { kind: feedKinds, state: feedStates, subject_kind: ['purchaseOrder', 'expected', 'delivery', 'order', 'dispatch'] },
      notice: { kind: ['standing', 'invoiceReleased'] },
    })
    for (const [table, columns] of Object.entries(words))
      for (const [column, known] of Object.entries(columns)) {
        const put = (word: string) => sql(`INSERT INTO "${table}" ("${column}") VALUES (?)`, [word])
        const guarded = new RegExp(`${table}\\.${column} takes none but|more than|from that standing`)
        await expect(put('rust'), `${table}.${column}`).rejects.toThrow(guarded)
        for (const word of known) await expect(put(word), `${table}.${column} ${word}`).rejects.not.toThrow(`${table}.${column} takes none but`)
      }
    await expect(sql(`UPDATE inspection SET state = 'lost'`)).rejects.toThrow(/inspection\.state takes none but/)
  })

  it('keeps the balances by itself, and lets no lot go into itself', async () => {
    const spots = async () => sql(`SELECT standing, quantity FROM balance WHERE lot_id = ? AND quantity > 0 ORDER BY standing`, [lotId])
    const before = (await spots()) as { standing: string; quantity: number }[]
    expect(before).toEqual([{ standing: 'released', quantity: 100 }])
    await insert(30, 'released', 'quarantined')
    expect(await spots()).toEqual([
      { standing: 'quarantined', quantity: 30 },
      { standing: 'released', quantity: 70 },
    ])
    await insert(30, 'quarantined', 'released')
    const use = (toLotId: string) =>
      sql(`INSERT INTO lot_use (id, from_lot_id, to_lot_id, quantity, occasion_id, at) SELECT 'u', ?, ?, 1, id, '' FROM occasion LIMIT 1`, [
        lotId,
        toLotId,
      ])
    await expect(use(lotId)).rejects.toThrow(/CHECK|check constraint|invalid input/)
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
        `INSERT INTO movement (lot_id, container_id, quantity, from_place_id, from_standing, from_sublot, to_place_id, to_standing, to_sublot, kind, at, person_id) SELECT ?, ?, 1, ?, 'onHold', '', ?, ?, '', 'putAway', '', id FROM person LIMIT 1`,
        [held?.id, containerId, held?.balances[0]?.placeId, held?.balances[0]?.placeId, toStanding],
      )
    for (const standing of ['used', 'shipped'])
      await expect(move(null, standing)).rejects.toThrow(/on hold can be neither used nor shipped|from that standing/)
    await expect(move(other?.balances[0]?.containerId ?? '', 'released')).rejects.toThrow(/belongs to another lot/)
  })
})
