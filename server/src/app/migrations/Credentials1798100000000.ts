import type { MigrationInterface, QueryRunner } from 'typeorm'
import { credentialTables } from './credentials'
import { statementsFor } from './tables'

/** Passwords that somebody else chose, and second factors. */
export class Credentials1798100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('sqlite', credentialTables)) await runner.query(statement)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
