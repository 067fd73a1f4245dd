import type { MigrationInterface, QueryRunner } from 'typeorm'
import { running, runningColumns } from '../running'
import { statementsFor } from '../tables'

/** Reports of a running step, and days from and until which a control point is in force. */
export class RunningThere1797200000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('postgres', running)) await runner.query(statement)
    for (const [table, column, type] of runningColumns)
      await runner.query(`ALTER TABLE "${table}" ADD "${column}" ${type === 'text' ? 'text COLLATE "C"' : type}`)
    for (const { name } of running)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
    for (const change of ['UPDATE', 'DELETE'])
      await runner.query(
        `CREATE TRIGGER step_report_no_${change.toLowerCase()} BEFORE ${change} ON step_report FOR EACH ROW EXECUTE FUNCTION refuse('step_report is append-only')`,
      )
    await runner.query(`CREATE TRIGGER step_report_no_truncate BEFORE TRUNCATE ON step_report EXECUTE FUNCTION refuse('step_report is append-only')`)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
