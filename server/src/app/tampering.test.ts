import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { endpoints } from '@nemawashi/contract'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { copyOnServer, isOnServer } from '../testing/database'
import { schema } from './areas'
import { decideAll, inspect, receive, startPlant, stock, type Plant } from '../testing/plant'
import { verifyLedger } from '../stock/ledger/ledgerRepository'
import { hashOf } from '../kernel/audit/auditChain'
import { chainKey, HeadFile, readHead } from '../kernel/audit/chainHead'
import { readConfig } from '../kernel/base/config'
import { SqliteConnection } from '../kernel/database/sqlite/sqlite'
import { copyDatabase } from '../kernel/database/sqlite/sqliteDatabase'
import type { AuditRow } from '../kernel/database/entities'
import { restore } from '../kernel/verify/restore'
import { verifyPlant } from '../kernel/verify/verifyPlant'

let plant: Plant
let whole: string
let file: string
let copy: Awaited<ReturnType<typeof copyOnServer>> | null = null
let key: Buffer
beforeAll(async () => {
  plant = await startPlant()
  const goods = await stock(plant)
  await goods.point((await goods.plan('PL-1', [{ characteristicId: goods.measured.id }])).id)
  const delivery = await receive(plant, goods, { quantity: 100 })
  await decideAll(plant, await inspect(plant, delivery.lots[0]?.inspections[0]?.id ?? '', 1))
  const content = Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47]), Buffer.alloc(40)]).toString('base64')
  await goods.engineer.call(endpoints.define.addDocument, { body: { name: 'drawing.png', mediaType: 'image/png', content } }, 'drawing')
  whole = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
  if (!isOnServer) copyDatabase(plant.kernel.database.address, join(whole, 'whole.sqlite'))
  key = chainKey(plant.kernel.config.chainKeyFile)
})
afterAll(async () => {
  await plant.stop()
  rmSync(whole, { recursive: true })
})
beforeEach(async () => {
  if (isOnServer) copy = await copyOnServer(plant.kernel.database.address)
  else copyFileSync(join(whole, 'whole.sqlite'), (file = join(whole, 'tampered.sqlite')))
})
afterEach(() => copy?.remove())

const anchors = () => {
  const head = new HeadFile(plant.kernel.config.chainHeadFile, key).read()
  return { key, also: [verifyLedger], heads: head === null ? [] : [{ where: 'the file outside', head }] }
}
/** Direct SQL on the file or the database server, past ours; the guards are put back as they were where `isCareful`. */
async function tamper(sql: string, isCareful = true): Promise<void> {
  // Somebody who may do everything there makes the guards rest for a moment.
  if (copy)
    return copy.run(
      `SET session_replication_role = replica; ${sql.replace(/;[^;]*sqlite_sequence[^;]*/, '')}; ${isCareful ? '' : 'DROP TRIGGER reading_no_update ON reading'}`,
    )
  const raw = new Sqlite(file)
  raw.pragma('foreign_keys = OFF')
  const guards = raw.prepare(`SELECT name, sql FROM sqlite_master WHERE type = 'trigger'`).all() as { name: string; sql: string }[]
  for (const { name } of guards) raw.exec(`DROP TRIGGER "${name}"`)
  raw.exec(sql)
  if (isCareful) for (const guard of guards) raw.exec(guard.sql)
  raw.close()
}
const found = async () => (await verifyPlant(copy?.address ?? file, schema, anchors())).breaks.join('\n')

const ways: readonly (readonly [what: string, sql: string, words: RegExp])[] = [
  [
    'a reading, and its mark',
    `UPDATE reading SET value = '0.30', mark = 'conforming' WHERE mark = 'nonconforming'`,
    /rows of reading .* were changed/,
  ],
  ['a reading taken out', `DELETE FROM reading WHERE piece = 2`, /rows of reading .* (gone|changed)/],
  [
    'a forged reading',
    `INSERT INTO reading (id, inspection_id, line_id, piece, correction, value, mark, is_confirmed_outside, typed_at, at, person_id) SELECT 'forged', inspection_id, line_id, piece, 9, value, mark, is_confirmed_outside, typed_at, at, person_id FROM reading LIMIT 1`,
    /1 rows of reading .* not in the chain/,
  ],
  ['a decision', `UPDATE decision SET signed_by_id = (SELECT id FROM person WHERE sign_in_name = 'admin')`, /decision .* changed past the chain/],
  ['a part of a decision', `UPDATE decision_part SET disposition = 'release'`, /decision_part .* changed past the chain/],
  ['a verdict', `UPDATE inspection SET verdict = 'acceptable'`, /inspection I-000001 was changed past the chain/],
  ['a limit of a characteristic', `UPDATE characteristic_revision SET upper = '0.50'`, /characteristic_revision .* changed past the chain/],
  ['an acceptance number', `UPDATE inspection_line SET accept = 5`, /inspection_line .* changed past the chain/],
  ['a gate', `UPDATE control_point SET is_gate = NOT is_gate`, /control_point CP-000001 was changed past the chain/],
  ['a standing', `UPDATE movement SET to_standing = 'quarantined' WHERE to_standing = 'released'`, /movement .* changed past the chain/],
  ['a quantity', `UPDATE movement SET quantity = 99 WHERE from_place_id IS NULL`, /movement .* changed past the chain/],
  ['a balance', `UPDATE balance SET quantity = quantity + 1 WHERE quantity > 0`, /the balance says \d+, the ledger adds up to/],
  [
    'since when pieces lie where they lie',
    `UPDATE balance SET since_seq = since_seq + 1`,
    /the balance begins with movement \d+, the ledger with \d+/,
  ],
  ['a balance of none taken out', `DELETE FROM balance WHERE quantity = 0`, /a balance is missing, the ledger adds up to 0/],
  ['a running number set back', `UPDATE counter SET value = value - 1 WHERE name = 'L'`, /counter L was changed past the chain/],
  ['that a password was chosen by somebody else', `DELETE FROM given_password`, /given_password .* was taken out past the chain/],
  ['a remembered answer', `UPDATE request_key SET reply = '{}'`, /request_key .* was changed past the chain/],
  [
    'a forged remembered answer',
    `INSERT INTO request_key ("key", person_id, request_hash, reply, at) SELECT 'forged', person_id, request_hash, reply, at FROM request_key LIMIT 1`,
    /request_key forged\/.* put in past the chain/,
  ],
  [
    'a forged migration',
    `INSERT INTO migrations (timestamp, name) VALUES (1999999999999, 'Forged1999999999999')`,
    /migration Forged1999999999999 is none of this release/,
  ],
  [
    'a migration taken out',
    `DELETE FROM migrations WHERE id = (SELECT MAX(id) FROM migrations)`,
    /migration \w+, which the chain says was run, is missing/,
  ],
  [
    'an earlier migration taken out',
    `DELETE FROM migrations WHERE id = (SELECT MAX(id) - 1 FROM migrations)`,
    /migration \w+ is missing, and later ones are there/,
  ],
  // It has no key that its rows could be told apart by.
  ['a table added', `CREATE TABLE extra (something text)`, /table extra was added/],
  ['a role', `UPDATE person SET roles = '["administrator"]' WHERE sign_in_name = 'inspector'`, /person inspector was changed past the chain/],
  ['a password', `UPDATE person SET password_hash = 'x' WHERE sign_in_name = 'admin'`, /person Admin was changed past the chain/],
  [
    'a forged session',
    `INSERT INTO session (token_hash, person_id, created_at, expires_at, agent) SELECT 'f', id, '', '9', '' FROM person LIMIT 1`,
    /session .* put in past the chain/,
  ],
  ['the content of a document', `UPDATE document SET content = substr(content, 1, 5)`, /document drawing.png/],
  ['a lot taken out', `DELETE FROM lot`, /lot .* was taken out past the chain/],
  ['an entry of the chain', `UPDATE audit SET after = '{"roles":["administrator"]}' WHERE seq = 3`, /entry 3 .* was changed after/],
  ['an entry taken out', `DELETE FROM audit WHERE seq = 5`, /entry 5 is missing/],
  [
    'two entries exchanged',
    `UPDATE audit SET seq = -1 WHERE seq = 4; UPDATE audit SET seq = 4 WHERE seq = 5; UPDATE audit SET seq = 5 WHERE seq = -1`,
    /entry 4 .* does not follow/,
  ],
  [
    'the end of the chain',
    `DELETE FROM audit WHERE seq > (SELECT MAX(seq) - 3 FROM audit); UPDATE sqlite_sequence SET seq = (SELECT MAX(seq) FROM audit) WHERE name = 'audit'`,
    /the file outside says entry \d+, the chain ends/,
  ],
  ['all of the chain', `DELETE FROM audit; DELETE FROM sqlite_sequence WHERE name = 'audit'`, /the file outside says entry/],
]

describe('what somebody changes past the server', () => {
  it('is nothing in a plant that nobody touched', async () => {
    expect(await found()).toBe('')
  })

  it.each(ways)('is discovered: %s', async (_what, sql, words) => {
    await tamper(sql)
    expect(await found()).toMatch(words)
  })

  it('is told in docs/tampering.md way by way, with what discovers it', () => {
    const table = readFileSync(new URL('../../../docs/tampering.md', import.meta.url), 'utf8')
    expect(ways.map(([what]) => what).filter((what) => !table.includes(`| ${what} | `))).toEqual([])
  })

  it.skipIf(isOnServer)('is discovered in a file that says what no release says of itself', async () => {
    await tamper('PRAGMA user_version = 7')
    expect(await found()).toMatch(/the user_version of the file is 7, and no release sets one/)
  })

  it('is discovered where guards were dropped, changed or added', async () => {
    await tamper('SELECT 1', false)
    expect(await found()).toMatch(/(trigger|guard) \w+( of reading)? is missing/)
    if (isOnServer) return
    copyFileSync(join(whole, 'whole.sqlite'), file)
    const raw = new Sqlite(file)
    raw.exec(`DROP TRIGGER reading_no_update; CREATE TRIGGER reading_no_update BEFORE UPDATE ON reading WHEN 0 BEGIN SELECT 1; END`)
    raw.exec(`CREATE TRIGGER helper AFTER INSERT ON reading BEGIN UPDATE person SET version = version; END`)
    raw.close()
    expect(await found()).toMatch(/trigger reading_no_update is not as it was made[^]*trigger helper was added/)
  })

  it.skipIf(isOnServer)(
    'is discovered when the whole chain was written anew, with fitting digits, by the file outside and by a report on paper',
    async () => {
      const paper = await plant.kernel.chain.head()
      const raw = new Sqlite(file)
      for (const act of ['update', 'delete', 'replace']) raw.exec(`DROP TRIGGER audit_no_${act}`)
      const rows = (await new SqliteConnection(raw).query('SELECT * FROM audit ORDER BY seq')) as AuditRow[]
      let previousHash = '0'.repeat(64)
      for (const row of rows) {
        const changed = { ...row, previousHash, why: row.seq === 3 ? 'forged' : row.why }
        previousHash = hashOf(changed)
        raw
          .prepare('UPDATE audit SET why = ?, previous_hash = ?, hash = ? WHERE seq = ?')
          .run(changed.why, changed.previousHash, previousHash, row.seq)
      }
      const triggers = new Sqlite(join(whole, 'whole.sqlite'))
        .prepare(`SELECT sql FROM sqlite_master WHERE name LIKE 'audit_no_%'`)
        .pluck()
        .all() as string[]
      for (const sql of triggers) raw.exec(sql)
      raw.close()
      expect((await verifyPlant(file, schema)).breaks).toEqual([])
      expect(await found()).toMatch(/the file outside says other digits for entry \d+: the chain was written anew/)
      expect((await verifyPlant(file, schema, { onPaper: [{ seq: paper.seq, hash: paper.hash.slice(0, 16) }] })).breaks.join()).toMatch(
        /report with entry \d+ says other digits/,
      )
    },
  )

  it('cannot be hidden by forging the file outside without the key', async () => {
    const head = await plant.kernel.chain.head()
    const forged = { ...head, seal: head.seal.replace(/^./, (digit) => (digit === '0' ? '1' : '0')) }
    expect((await verifyPlant(copy?.address ?? file, schema, { key, heads: [{ where: 'the file', head: forged }] })).breaks.join()).toMatch(
      /does not carry the seal/,
    )
    expect(readHead('nonsense')).toBeNull()
  })

  it.skipIf(isOnServer)('cannot pass the append-only guards with REPLACE', () => {
    const raw = new Sqlite(file)
    for (const table of ['reading', 'movement', 'audit', 'decision', 'decision_part', 'inspection_line'])
      expect(() => raw.exec(`REPLACE INTO "${table}" SELECT * FROM "${table}" LIMIT 1`)).toThrow(/append-only/)
    raw.close()
  })

  it.skipIf(isOnServer)('is discovered when the file itself is damaged', async () => {
    const bytes = readFileSync(file)
    bytes.fill(0xff, bytes.length - 3 * 4096, bytes.length - 4096)
    writeFileSync(file, bytes)
    expect(await found()).not.toBe('')
  })
})

describe.skipIf(isOnServer)('putting a copy back', () => {
  const there = () => {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    return { folder, config: readConfig({ NEMAWASHI_DATA: folder, NEMAWASHI_LOG: 'silent' }), file: join(folder, 'nemawashi.sqlite') }
  }

  it('refuses what is no whole plant, and leaves what is there as it is', async () => {
    const { folder, config, file: database } = there()
    copyFileSync(file, database)
    const before = readFileSync(database)
    const odd = (name: string, content: string | Buffer) => {
      writeFileSync(join(folder, name), content)
      return join(folder, name)
    }
    const foreign = join(folder, 'foreign.sqlite')
    new Sqlite(foreign).exec('CREATE TABLE thing (id)').close()
    const damaged = readFileSync(file)
    damaged.fill(0xff, 5 * 4096, 9 * 4096)
    await tamper(`UPDATE person SET roles = '["administrator"]'`)
    const cases = [odd('text', 'this is a text'), odd('empty', ''), foreign, odd('damaged', damaged), file, folder, join(folder, 'missing')]
    for (const from of cases)
      await expect(restore(config, schema, from)).rejects.toThrow(/no database|not one of this|not whole|Name an existing|newer|missing/i)
    expect(readFileSync(database).equals(before)).toBe(true)
    rmSync(folder, { recursive: true })
  })

  it('keeps every database that was there, under a name of its own, and says in the chain that it was done', async () => {
    const { folder, config, file: database } = there()
    mkdirSync(join(folder, 'x'))
    for (let i = 0; i < 2; i++) {
      await restore(config, schema, file)
      await new Promise((resolve) => setTimeout(resolve, 5))
    }
    const { breaks, entries } = await verifyPlant(database, schema, {
      key: chainKey(config.chainKeyFile),
      heads: [{ where: 'head', head: new HeadFile(config.chainHeadFile, key).read() ?? 'damaged' }],
    })
    expect(breaks).toEqual([])
    expect(entries).toBeGreaterThan(10)
    await restore(config, schema, file)
    const { readdirSync } = await import('node:fs')
    expect(
      readdirSync(folder).filter((name) => name.startsWith('nemawashi.sqlite.before-restore-') && !name.endsWith('-shm') && !name.endsWith('-wal')),
    ).toHaveLength(2)
    rmSync(folder, { recursive: true })
  })
})
