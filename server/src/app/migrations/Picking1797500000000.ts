import type { MigrationInterface, QueryRunner } from 'typeorm'
import { dispatchLine, pickingStatements } from './picking'
import { statementsFor } from './tables'

/** Dispatches that are planned before they are picked; goods that may be put away before their decision; pieces that are set aside. */
export class Picking1797500000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of [...pickingStatements('sqlite'), ...statementsFor('sqlite', [dispatchLine])]) await runner.query(statement)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
