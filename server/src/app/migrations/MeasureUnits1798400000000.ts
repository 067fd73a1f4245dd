import { usualUnits } from '@nemawashi/core'
import type { MigrationInterface, QueryRunner } from 'typeorm'
import { column, maybe, statementsFor, type Table } from './tables'

const table: Table = {
  name: 'measure_unit',
  primary: 'PK_cd5429d24835041145dc317578b',
  columns: [
    column('id'),
    column('code'),
    column('name'),
    column('version', 'integer'),
    column('quantity'),
    maybe('factor'),
    maybe('shift'),
    column('is_active', 'boolean'),
  ],
  uniques: { UQ_e3286ad6f4556419960bf4edf2e: ['code'] },
  indices: {},
}

const quoted = (value: string | null) => (value === null ? 'NULL' : `'${value.replaceAll("'", "''")}'`)

/** The units that were fixed before and more, as the beginning of a list that the plant keeps; the same in a file and on a server. */
export class MeasureUnits1798400000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    const kind = runner.connection.options.type === 'postgres' ? 'postgres' : 'sqlite'
    for (const statement of statementsFor(kind, [table])) await runner.query(statement)
    if (kind === 'postgres')
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "measure_unit" FOR EACH ROW EXECUTE FUNCTION touch()`)
    const rows = usualUnits.map(({ symbol, name, quantity, factor, shift }, i) => {
      const id = `01a0b45c-0000-7000-8001-${String(i + 1).padStart(12, '0')}`
      return `(${[id, symbol, name].map(quoted).join(', ')}, 1, ${[quantity, factor, shift].map(quoted).join(', ')}, TRUE)`
    })
    await runner.query(
      `INSERT INTO "measure_unit" ("id", "code", "name", "version", "quantity", "factor", "shift", "is_active") VALUES ${rows.join(', ')}`,
    )
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it.')
  }
}
