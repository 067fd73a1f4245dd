import type { MigrationInterface, QueryRunner } from 'typeorm'
import { finerTables, scopeStatements } from '../scopes'

/** Serial numbers, days of hold, finer standings, and control points for groups of suppliers and for contracts, on a server. */
export class ScopesThere1797400000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of scopeStatements('postgres')) await runner.query(statement)
    for (const { name } of finerTables)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
