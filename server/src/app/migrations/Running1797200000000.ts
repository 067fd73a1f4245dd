import type { MigrationInterface, QueryRunner } from 'typeorm'
import { running, runningColumns } from './running'
import { appendOnlyGuards, statementsFor } from './tables'

/** Reports of a running step, and days from and until which a control point is in force. */
export class Running1797200000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('sqlite', running)) await runner.query(statement)
    for (const [table, column, type] of runningColumns) await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}`)
    for (const guard of appendOnlyGuards('sqlite', 'step_report')) await runner.query(guard)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
