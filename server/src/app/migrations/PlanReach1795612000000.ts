import type { MigrationInterface, QueryRunner } from 'typeorm'

export class PlanReach1795612000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "plan_line" ADD COLUMN "targets" text')
    await runner.query('ALTER TABLE "plan_revision" ADD COLUMN "effectiveFrom" text')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "plan_revision" DROP COLUMN "effectiveFrom"')
    await runner.query('ALTER TABLE "plan_line" DROP COLUMN "targets"')
  }
}
