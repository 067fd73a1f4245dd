import type { MigrationInterface, QueryRunner } from 'typeorm'
import { consequenceColumns, expected } from './expected'
import { appendOnlyGuards, statementsFor } from './tables'

/** Purchase orders, deliveries that are told of before their receipt, and what follows from a finding. */
export class Expected1797300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('sqlite', expected)) await runner.query(statement)
    for (const [table, column, start] of consequenceColumns)
      await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" text${start === null ? '' : ` NOT NULL DEFAULT (${start})`}`)
    for (const guard of appendOnlyGuards('sqlite', 'delivery_paper')) await runner.query(guard)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
