import type { MigrationInterface, QueryRunner } from 'typeorm'
import { firstConsiderations, newTables } from './newTables'
import { restingForeignKeys } from './restingForeignKeys'
import { statementsFor } from './tables'

const keys = [
  ['FK_85f91e8585f464f65a5dedb1689', 'hold_place_id', 'place'],
  ['FK_c35d57590a447f69c0a22d7b3d2', 'supplier_id', 'partner'],
  ['FK_c0fe17b443838d2e11ad79e53dd', 'family_id', 'family'],
  ['FK_bfe20eb90bf3f3029855cf645b2', 'part_id', 'part'],
  ['FK_6ad6e367ffc90114a50c4c55326', 'plan_id', 'plan'],
  ['FK_5f18db46635f0f98bfe17275f1b', 'operation_id', 'operation'],
  ['FK_d492c28cb687cf50f37cbcae38c', 'customer_id', 'partner'],
]
const kept =
  '"id", "code", "operation_id", "plan_id", "part_id", "family_id", "supplier_id", "hold_place_id", "is_gate", "state", "version", "on_failure"'

/** Every operation has its occasions, and control points their moments, frequencies and people. */
export class EveryOperation1796700000000 implements MigrationInterface {
  readonly transaction = false

  async up(runner: QueryRunner): Promise<void> {
    await restingForeignKeys(runner, async () => {
      await runner.query(`CREATE TABLE "control_point_new" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "operation_id" text NOT NULL,
        "plan_id" text NOT NULL, "part_id" text, "family_id" text, "supplier_id" text, "hold_place_id" text, "is_gate" boolean NOT NULL,
        "state" text NOT NULL, "version" integer NOT NULL, "on_failure" text NOT NULL DEFAULT ('hold'), "moment" text NOT NULL DEFAULT ('arrival'),
        "customer_id" text, "frequency" text NOT NULL DEFAULT ('{"kind":"everyArrival"}'), "responsible" text NOT NULL DEFAULT (''), "due_hours" real,
        CONSTRAINT "UQ_2a6f8e76bb4c8c584d65e0b8719" UNIQUE ("code"), CONSTRAINT "control_point_reach" CHECK ("part_id" IS NULL OR "family_id" IS NULL),
        ${keys.map(([name, column, table]) => `CONSTRAINT "${name}" FOREIGN KEY ("${column}") REFERENCES "${table}" ("id")`).join(', ')})`)
      await runner.query(`INSERT INTO "control_point_new" (${kept}) SELECT ${kept} FROM "control_point"`)
      await runner.query('DROP TABLE "control_point"')
      await runner.query('ALTER TABLE "control_point_new" RENAME TO "control_point"')
      await runner.query('CREATE INDEX "control_point_part" ON "control_point" ("part_id")')
      await runner.query('CREATE INDEX "control_point_family" ON "control_point" ("family_id")')
      await runner.query('CREATE INDEX "control_point_operation" ON "control_point" ("operation_id", "moment")')
      await runner.query('ALTER TABLE "inspection" ADD COLUMN "due_at" text')
      await runner.query(`ALTER TABLE "inspection" ADD COLUMN "responsible" text NOT NULL DEFAULT ('')`)
      for (const statement of statementsFor('sqlite', newTables)) await runner.query(statement)
      await runner.query(firstConsiderations)
    })
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
