import type { MigrationInterface, QueryRunner } from 'typeorm'
import { expected } from '../expected'
import { statementsFor } from '../tables'

/** Purchase orders, and deliveries that are told of before their receipt. */
export class ExpectedThere1797300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('postgres', expected)) await runner.query(statement)
    for (const { name } of expected)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
