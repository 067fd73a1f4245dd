import type { MigrationInterface, QueryRunner } from 'typeorm'
import { byHandStatements } from './byHand'

/** Inspections that somebody opens by hand. */
export class ByHand1797700000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of byHandStatements('sqlite')) await runner.query(statement)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
