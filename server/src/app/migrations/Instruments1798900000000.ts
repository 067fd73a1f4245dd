import type { MigrationInterface, QueryRunner } from 'typeorm'
import { column, key, oneOf, statementsFor, type Table } from './tables'

const tables: readonly Table[] = [
  {
    name: 'instrument',
    primary: 'PK_instrument',
    columns: [
      column('id'),
      key('gauge_id', 'gauge', 'cb7e46d009481aaedab1dbf667f'),
      column('key_hash'),
      column('given_at'),
      key('given_by_id', 'person', '5958fd26bbe99c9911922fdda9d'),
    ],
    uniques: { UQ_cbacc3d76d2fb631dd599206061: ['key_hash'], instrument_gauge: ['gauge_id'] },
    indices: {},
  },
  {
    name: 'sent_value',
    primary: 'PK_sent_value',
    columns: [
      column('id'),
      key('gauge_id', 'gauge', '04fd13bb250b6a6a3d28b97ad0d'),
      column('send_id'),
      column('value'),
      column('unit'),
      column('pressed_at'),
      column('received_at'),
      column('outcome'),
      key('inspection_id', 'inspection', '91c61f67fb49deab98ea1ca24af', true),
      key('person_id', 'person', '6b892d6a28a54a0be3bef0a4e19', true),
      key('reading_id', 'reading', '2435aceee02c3d79d9d023676bd', true),
    ],
    uniques: { sent_value_once: ['gauge_id', 'send_id'] },
    indices: { sent_value_received: ['gauge_id', 'received_at'] },
    checks: { sent_value_outcome_known: oneOf('outcome', ['heard', 'unheard', 'doubled']) },
  },
]

/** What an instrument sent stays as it was sent; which reading stands on it is said once. */
const sent = ['id', 'gauge_id', 'send_id', 'value', 'unit', 'pressed_at', 'received_at', 'outcome', 'inspection_id', 'person_id']
const words = 'what an instrument sent stays; it stands for one reading'

/** Gauges that send their values by themselves, and what they sent; the same in a file and on a server. */
export class Instruments1798900000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    const kind = runner.connection.options.type === 'postgres' ? 'postgres' : 'sqlite'
    for (const statement of statementsFor(kind, tables)) await runner.query(statement)
    await runner.query('CREATE UNIQUE INDEX "sent_value_reading" ON "sent_value" ("reading_id") WHERE "reading_id" IS NOT NULL')
    if (kind === 'postgres')
      for (const { name } of tables)
        await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
    const columns = sent.map((name) => `"${name}"`).join(', ')
    for (const [name, change, when] of [
      ['sent_value_stays', `UPDATE OF ${columns}`, ''],
      ['sent_value_taken_once', 'UPDATE OF "reading_id"', 'WHEN (OLD."reading_id" IS NOT NULL)'],
      ['sent_value_no_delete', 'DELETE', ''],
    ])
      await runner.query(
        kind === 'postgres'
          ? `CREATE TRIGGER ${name} BEFORE ${change} ON "sent_value" FOR EACH ROW ${when} EXECUTE FUNCTION refuse('${words}')`
          : `CREATE TRIGGER "${name}" BEFORE ${change} ON "sent_value" ${when} BEGIN SELECT RAISE(ABORT, '${words}'); END`,
      )
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it.')
  }
}
