import type { MigrationInterface, QueryRunner } from 'typeorm'
import { scopeStatements } from './scopes'

/** Serial numbers, days of hold, finer standings, and control points for groups of suppliers and for contracts. */
export class Scopes1797400000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of scopeStatements('sqlite')) await runner.query(statement)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
