import type { MigrationInterface, QueryRunner } from 'typeorm'
import { credentialTables } from './credentials'
import { statementsFor } from './tables'

/** Passwords that somebody else chose, and second factors; what somebody kept lately is asked at each document. */
export class Credentials1798100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('sqlite', credentialTables)) await runner.query(statement)
    await runner.query('CREATE INDEX "document_person" ON "document" ("person_id", "at")')
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
