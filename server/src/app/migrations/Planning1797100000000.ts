import type { MigrationInterface, QueryRunner } from 'typeorm'
import { plannedColumns, planning } from './planning'
import { appendOnlyGuards, statementsFor } from './tables'

/** Who does what on which day, samples that are adapted, lines asked once for several control points, transfers and where pieces belong. */
export class Planning1797100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('sqlite', planning)) await runner.query(statement)
    for (const [table, column, type, start] of plannedColumns)
      await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}${start === null ? '' : ` NOT NULL DEFAULT (${start})`}`)
    for (const guard of appendOnlyGuards('sqlite', 'adaptation')) await runner.query(guard)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
