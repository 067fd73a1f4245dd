import type { MigrationInterface, QueryRunner } from 'typeorm'
import { consequenceColumns, expected } from '../expected'
import { appendOnlyGuards, statementsFor } from '../tables'

/** Purchase orders, deliveries that are told of before their receipt, and what follows from a finding. */
export class ExpectedThere1797300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('postgres', expected)) await runner.query(statement)
    for (const [table, column, start] of consequenceColumns)
      await runner.query(`ALTER TABLE "${table}" ADD "${column}" text COLLATE "C"${start === null ? '' : ` NOT NULL DEFAULT ${start}`}`)
    for (const { name } of expected)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
    for (const guard of appendOnlyGuards('postgres', 'delivery_paper')) await runner.query(guard)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
