import type { MigrationInterface, QueryRunner } from 'typeorm'

/** The classes that were fixed before, as the beginning of a list that the user keeps. */
export const firstClasses = [
  ['01a0b45c-0000-7000-8000-000000000001', 'critical', 'could harm people or stop the function'],
  ['01a0b45c-0000-7000-8000-000000000002', 'major', 'could fail early or be refused by the customer'],
  ['01a0b45c-0000-7000-8000-000000000003', 'minor', 'hardly lessens the use'],
] as const

export class Classes1795613000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'CREATE TABLE "importance_class" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "isActive" boolean NOT NULL, CONSTRAINT "UQ_importance_class_code" UNIQUE ("code"))',
    )
    for (const [id, code, name] of firstClasses) await runner.query(`INSERT INTO "importance_class" VALUES (?, ?, ?, 1, 1)`, [id, code, name])
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "importance_class"')
  }
}
