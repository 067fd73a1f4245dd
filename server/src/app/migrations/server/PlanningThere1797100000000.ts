import type { MigrationInterface, QueryRunner } from 'typeorm'
import { plannedColumns, planning } from '../planning'
import { appendOnlyGuards, statementsFor } from '../tables'

/** Who does what on which day, samples that are adapted, lines asked once for several control points, transfers and where pieces belong. */
export class PlanningThere1797100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('postgres', planning)) await runner.query(statement)
    for (const [table, column, type, start] of plannedColumns)
      await runner.query(
        `ALTER TABLE "${table}" ADD "${column}" ${type === 'text' ? 'text COLLATE "C"' : type}${start === null ? '' : ` NOT NULL DEFAULT ${start}`}`,
      )
    for (const { name } of planning)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
    for (const guard of appendOnlyGuards('postgres', 'adaptation')) await runner.query(guard)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
