import type { MigrationInterface, QueryRunner } from 'typeorm'

/** How often a reason was given is asked wherever one is chosen: of entries, decisions and skipped lines by what they say. The same in a file and on a server. */
export class ReasonUses1797900000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE INDEX "audit_why" ON "audit" ("why") WHERE "why" IS NOT NULL')
    await runner.query('CREATE INDEX "decision_part_reason" ON "decision_part" ("reason")')
    await runner.query('CREATE INDEX "inspection_skipped" ON "inspection" ("id") WHERE "skips" IS NOT NULL')
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of ['audit_why', 'decision_part_reason', 'inspection_skipped']) await runner.query(`DROP INDEX "${name}"`)
  }
}
