import type { MigrationInterface, QueryRunner } from 'typeorm'
import { scopeStatements } from './../scopes'

/** Serial numbers, days of hold, and control points for groups of suppliers and for contracts, on a server. */
export class ScopesThere1797400000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of scopeStatements) await runner.query(statement)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it.')
  }
}
