import type { MigrationInterface, QueryRunner } from 'typeorm'
import { feedTables } from './feedTables'
import { statementsFor } from './tables'

/** Another system tells of what happened, and is told what became of it. */
export class Feed1797000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('sqlite', feedTables)) await runner.query(statement)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
