import type { MigrationInterface, QueryRunner } from 'typeorm'

export class FollowUpsAndSkips1795611000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "inspection" ADD COLUMN "followsId" text')
    await runner.query('ALTER TABLE "inspection" ADD COLUMN "skips" text')
    await runner.query('CREATE INDEX "inspection_follows" ON "inspection" ("followsId")')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX "inspection_follows"')
    await runner.query('ALTER TABLE "inspection" DROP COLUMN "followsId"')
    await runner.query('ALTER TABLE "inspection" DROP COLUMN "skips"')
  }
}
