import { v7 } from 'uuid'
import type { QueryRunner } from 'typeorm'
import { addReferences, type Reference } from './addReferences'
import { appendOnlyGuards, column, key, maybe, oneOf, statementsFor, type Table } from './tables'

const coded = [column('id'), column('code'), column('name'), column('version', 'integer')]

const tables: readonly Table[] = [
  {
    name: 'gauge_kind',
    primary: 'PK_gauge_kind',
    columns: [...coded, column('is_asked', 'boolean'), column('is_waivable', 'boolean'), column('is_active', 'boolean')],
    uniques: { UQ_c88d5812e503ff20342d1c63847: ['code'] },
    indices: {},
  },
  {
    name: 'gauge',
    primary: 'PK_gauge',
    columns: [
      ...coded,
      key('kind_id', 'gauge_kind', '21e4c36071409033ba9945db9d0'),
      column('maker'),
      column('serial_number'),
      maybe('resolution'),
      maybe('unit'),
      maybe('lower'),
      maybe('upper'),
      maybe('calibrated_on'),
      column('interval_months', 'integer', true),
      column('state'),
      column('state_reason'),
      column('state_since'),
      maybe('due_on'),
    ],
    uniques: { UQ_52dfff78b78b52b3d1418f41656: ['code'] },
    indices: { gauge_kind_of: ['kind_id'], gauge_due: ['due_on'] },
    checks: { gauge_state_known: oneOf('state', ['inUse', 'locked', 'retired']) },
  },
  {
    name: 'gauge_use',
    primary: 'PK_gauge_use',
    columns: [
      column('id'),
      key('inspection_id', 'inspection', '71729e8967ed4abeaab7c9147a3'),
      key('line_id', 'inspection_line', 'fb1dfb185ae4cca717765ac1714'),
      key('gauge_id', 'gauge', '571f0f8833ad4df02c18b896610'),
      key('person_id', 'person', '173a91639a63d9364004bc1cdd4'),
      column('at'),
      column('objections'),
      column('reason'),
    ],
    uniques: {},
    indices: { gauge_use_inspection: ['inspection_id', 'line_id'], gauge_use_gauge: ['gauge_id', 'at'] },
  },
]

/** With which gauge a value was measured, and by whom where another typed it. */
const ofReading: readonly Reference[] = [
  { column: 'gauge_id', target: 'gauge', key: 'FK_d3ce3400c64367871fcc78bb8d0' },
  { column: 'inspected_by_id', target: 'person', key: 'FK_981a9f31420597546a0d62b7ac9' },
]

const quoted = (text: string) => `'${text.replaceAll("'", "''")}'`

/**
 * The register of gauges, which gauge was chosen for what is measured, and with which each value was, and by whom where another typed it; the same in a file and on a server. What
 * characteristics ask for in words is the beginning of the list of kinds; no reading wants a gauge by name until the plant says so.
 */
export async function makeGauges(runner: QueryRunner, kind: 'sqlite' | 'postgres'): Promise<void> {
  for (const statement of statementsFor(kind, tables)) await runner.query(statement)
  for (const guard of appendOnlyGuards(kind, 'gauge_use')) await runner.query(guard)
  if (kind === 'postgres') {
    for (const { name } of tables)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
    for (const { column: name, target, key: constraint } of ofReading) {
      await runner.query(`ALTER TABLE "reading" ADD COLUMN "${name}" text COLLATE "C"`)
      await runner.query(`ALTER TABLE "reading" ADD CONSTRAINT "${constraint}" FOREIGN KEY ("${name}") REFERENCES "${target}" ("id")`)
    }
  } else await addReferences(runner, 'reading', ofReading)
  await runner.query('CREATE INDEX "reading_gauge" ON "reading" ("gauge_id") WHERE "gauge_id" IS NOT NULL')
  const named = (await runner.query(
    `SELECT DISTINCT json_extract(details, '$.gaugeKind') AS code FROM characteristic_revision
     WHERE details IS NOT NULL AND COALESCE(json_extract(details, '$.gaugeKind'), '') <> '' ORDER BY 1`,
  )) as { code: string }[]
  for (const { code } of named)
    await runner.query(
      `INSERT INTO "gauge_kind" ("id", "code", "name", "version", "is_asked", "is_waivable", "is_active")
       VALUES (${quoted(v7())}, ${quoted(code)}, ${quoted(code)}, 1, FALSE, TRUE, TRUE)`,
    )
}
