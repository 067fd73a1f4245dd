import type { MigrationInterface, QueryRunner } from 'typeorm'
import { firstConsiderations, newTables } from '../newTables'
import { statementsFor } from '../tables'

/** Every operation has its occasions, and control points their moments, frequencies and people. Its name is its own: a bundle renames the second of two. */
export class EveryOperationThere1796700000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    const text = 'text COLLATE "C"'
    await runner.query(`ALTER TABLE "control_point" ADD "moment" ${text} NOT NULL DEFAULT 'arrival', ADD "customer_id" ${text},
      ADD "frequency" ${text} NOT NULL DEFAULT '{"kind":"everyArrival"}', ADD "responsible" ${text} NOT NULL DEFAULT '', ADD "due_hours" double precision,
      DROP CONSTRAINT "control_point_reach", ADD CONSTRAINT "control_point_reach" CHECK ("part_id" IS NULL OR "family_id" IS NULL),
      ADD CONSTRAINT "FK_d492c28cb687cf50f37cbcae38c" FOREIGN KEY ("customer_id") REFERENCES "partner" ("id")`)
    await runner.query('CREATE INDEX "control_point_operation" ON "control_point" ("operation_id", "moment")')
    await runner.query(`ALTER TABLE "inspection" ADD "due_at" ${text}, ADD "responsible" ${text} NOT NULL DEFAULT ''`)
    for (const statement of statementsFor('postgres', newTables)) await runner.query(statement)
    await runner.query(firstConsiderations)
    for (const { name } of newTables)
      await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "${name}" FOR EACH ROW EXECUTE FUNCTION touch()`)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
