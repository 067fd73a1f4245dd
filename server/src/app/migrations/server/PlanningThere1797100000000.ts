import type { MigrationInterface, QueryRunner } from 'typeorm'
import { plannedColumns, planning } from '../planning'
import { statementsFor } from '../tables'

/** Who does what on which day, samples that are adapted, lines asked once for several control points, transfers and where pieces belong. */
export class PlanningThere1797100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statementsFor('postgres', planning)) await runner.query(statement)
    for (const [table, column, type, start] of plannedColumns)
      await runner.query(
        `ALTER TABLE "${table}" ADD "${column}" ${type === 'text' ? 'text COLLATE "C"' : type}${start === null ? '' : ` NOT NULL DEFAULT ${start}`}`,
      )
    for (const { name } of planning)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
    for (const change of ['UPDATE', 'DELETE'])
      await runner.query(
        `CREATE TRIGGER adaptation_no_${change.toLowerCase()} BEFORE ${change} ON adaptation FOR EACH ROW EXECUTE FUNCTION refuse('adaptation is append-only')`,
      )
    await runner.query(`CREATE TRIGGER adaptation_no_truncate BEFORE TRUNCATE ON adaptation EXECUTE FUNCTION refuse('adaptation is append-only')`)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
