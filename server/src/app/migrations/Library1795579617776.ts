import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Columns are added in place and not by rebuilding tables, so that the triggers which keep readings and inspection lines stay. */
const columns = [
  ['characteristic', 'importId', 'text'],
  ['characteristic_revision', 'details', 'text'],
  ['plan_line', 'detached', 'text'],
  ['plan_line', 'stage', "text NOT NULL DEFAULT ('')"],
  ['plan_line', 'instruction', "text NOT NULL DEFAULT ('')"],
  ['inspection_line', 'scheme', 'text'],
  ['inspection_line', 'detached', 'text'],
  ['reading', 'entered', 'text'],
] as const

export class Library1795579617776 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'CREATE TABLE "answer_list" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "answers" text NOT NULL, "isActive" boolean NOT NULL, CONSTRAINT "UQ_12512a5b3e4821cb50e7f34eebb" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "fault_code" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "isActive" boolean NOT NULL, CONSTRAINT "UQ_12e7f5e40ac93df5e17c076cb35" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "reason" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "purpose" text NOT NULL, "isActive" boolean NOT NULL, CONSTRAINT "UQ_d0c75c5c7ebf5c55ff86282aa02" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "count_unit" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "isActive" boolean NOT NULL, CONSTRAINT "UQ_a827f283c4deab0b532d76264b3" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "document" ("id" text PRIMARY KEY NOT NULL, "name" text NOT NULL, "mediaType" text NOT NULL, "size" integer NOT NULL, "hash" text NOT NULL, "at" text NOT NULL, "personId" text NOT NULL, "content" blob NOT NULL, CONSTRAINT "FK_77aa28739b6a22352932ef945c6" FOREIGN KEY ("personId") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    for (const [table, column, type] of columns) await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}`)
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const [table, column] of [...columns].reverse()) await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${column}"`)
    for (const table of ['document', 'count_unit', 'reason', 'fault_code', 'answer_list']) await runner.query(`DROP TABLE "${table}"`)
  }
}
