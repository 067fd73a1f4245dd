import type { MigrationInterface, QueryRunner } from 'typeorm'
import { dispatchLine, pickingStatements } from '../picking'
import { statementsFor } from '../tables'

/** Dispatches that are planned before they are picked, goods that may be put away before their decision, and pieces that are set aside, on a server. */
export class PickingThere1797500000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of [...pickingStatements('postgres'), ...statementsFor('postgres', [dispatchLine])]) await runner.query(statement)
    await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "dispatch_line" FOR EACH ROW EXECUTE FUNCTION touch()`)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
