import type { MigrationInterface, QueryRunner } from 'typeorm'

/** The chain by what was done: its list leaves signing in and out aside, and counts the rest. The same in a file and on a server. */
export class AuditAction1796100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE INDEX "audit_action" ON "audit" ("action", "seq")')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX "audit_action"')
  }
}
