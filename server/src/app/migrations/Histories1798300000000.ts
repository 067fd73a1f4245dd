import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Two tables were read whole: of what was considered, with each inspection that ends; of returns, with each pick that is looked at. */
const indices: Readonly<Record<string, string>> = {
  consideration_inspection: '"consideration" ("inspection_id") WHERE "inspection_id" IS NOT NULL',
  customer_return_pick: '"customer_return" ("pick_id") WHERE "pick_id" IS NOT NULL',
}

export class Histories1798300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const [name, on] of Object.entries(indices)) await runner.query(`CREATE INDEX "${name}" ON ${on}`)
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of Object.keys(indices)) await runner.query(`DROP INDEX "${name}"`)
  }
}
