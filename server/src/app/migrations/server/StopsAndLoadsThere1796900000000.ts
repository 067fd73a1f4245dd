import type { MigrationInterface, QueryRunner } from 'typeorm'
import { addedColumns, arrivedSql, stopsAndLoads } from '../stopsAndLoads'
import { statementsFor } from '../tables'
import { movementAllowed } from './guards'

/** Severity by history, checks of a load, holds of a sample, and deliveries that are put right. */
export class StopsAndLoadsThere1796900000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('postgres', stopsAndLoads)) await runner.query(statement)
    for (const [table, column, type, start] of addedColumns)
      await runner.query(
        `ALTER TABLE "${table}" ADD "${column}" ${type === 'text' ? 'text COLLATE "C"' : type}${start === null ? '' : ` NOT NULL DEFAULT '${start}'`}`,
      )
    // Thousands of points at one operation: those of a part are found without reading the others.
    await runner.query('DROP INDEX "control_point_operation"')
    await runner.query('CREATE INDEX "control_point_operation" ON "control_point" ("operation_id", "moment", "part_id", "family_id")')
    // More may have come than was entered at first: what was corrected counts.
    await runner.query(`CREATE OR REPLACE FUNCTION ${movementAllowed(arrivedSql)}`)
    await runner.query(
      'ALTER TABLE "decision" DROP CONSTRAINT "decision_inspection", ADD CONSTRAINT "decision_inspection" UNIQUE ("inspection_id", "lot_id")',
    )
    await runner.query('ALTER TABLE "consideration" ALTER COLUMN "part_id" DROP NOT NULL')
    for (const { name } of stopsAndLoads)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
