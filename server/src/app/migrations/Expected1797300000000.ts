import type { MigrationInterface, QueryRunner } from 'typeorm'
import { expected } from './expected'
import { statementsFor } from './tables'

/** Purchase orders, and deliveries that are told of before their receipt. */
export class Expected1797300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('sqlite', expected)) await runner.query(statement)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
