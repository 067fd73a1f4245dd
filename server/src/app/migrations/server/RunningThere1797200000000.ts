import type { MigrationInterface, QueryRunner } from 'typeorm'
import { running, runningColumns } from '../running'
import { appendOnlyGuards, statementsFor } from '../tables'

/** Reports of a running step, and days from and until which a control point is in force. */
export class RunningThere1797200000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('postgres', running)) await runner.query(statement)
    for (const [table, column, type] of runningColumns)
      await runner.query(`ALTER TABLE "${table}" ADD "${column}" ${type === 'text' ? 'text COLLATE "C"' : type}`)
    for (const { name } of running)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
    for (const guard of appendOnlyGuards('postgres', 'step_report')) await runner.query(guard)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
