import type { MigrationInterface, QueryRunner } from 'typeorm'
import { credentialTables } from '../credentials'
import { statementsFor } from '../tables'

/** Passwords that somebody else chose, and second factors, on a server; what somebody kept lately is asked at each document. */
export class CredentialsThere1798100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('postgres', credentialTables)) await runner.query(statement)
    for (const { name } of credentialTables)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
    await runner.query('CREATE INDEX "document_person" ON "document" ("person_id", "at")')
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
