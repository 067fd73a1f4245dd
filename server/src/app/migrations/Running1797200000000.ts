import type { MigrationInterface, QueryRunner } from 'typeorm'
import { running, runningColumns } from './running'
import { statementsFor } from './tables'

/** Reports of a running step, and days from and until which a control point is in force. */
export class Running1797200000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('sqlite', running)) await runner.query(statement)
    for (const [table, column, type] of runningColumns) await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}`)
    for (const change of ['UPDATE', 'DELETE'])
      await runner.query(`CREATE TRIGGER "step_report_no_${change.toLowerCase()}" BEFORE ${change} ON "step_report"
        BEGIN SELECT RAISE(ABORT, 'step_report is append-only'); END`)
    await runner.query(`CREATE TRIGGER "step_report_no_replace" BEFORE INSERT ON "step_report" WHEN EXISTS (SELECT 1 FROM "step_report" WHERE "id" = NEW."id")
      BEGIN SELECT RAISE(ABORT, 'step_report is append-only: the key is taken'); END`)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
