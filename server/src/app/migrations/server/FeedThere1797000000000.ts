import type { MigrationInterface, QueryRunner } from 'typeorm'
import { feedTables } from '../feedTables'
import { statementsFor } from '../tables'

/** Another system tells of what happened, and is told what became of it. */
export class FeedThere1797000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('postgres', feedTables)) await runner.query(statement)
    for (const { name } of feedTables)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
