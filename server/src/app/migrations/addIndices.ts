import type { MigrationInterface, QueryRunner } from 'typeorm'

/** A migration that adds indices, the same in a file and on a server. By name: what stands after `ON`. */
export abstract class AddIndices implements MigrationInterface {
  protected abstract readonly indices: Readonly<Record<string, string>>

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, on] of Object.entries(this.indices)) await runner.query(`CREATE INDEX "${name}" ON ${on}`)
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of Object.keys(this.indices)) await runner.query(`DROP INDEX "${name}"`)
  }
}
