import type { MigrationInterface, QueryRunner } from 'typeorm'
import { newTables } from './newTables'
import { restingForeignKeys } from './restingForeignKeys'
import { addedColumns, arrivedSql, stopsAndLoads } from './stopsAndLoads'
import { statementsFor } from './tables'

/** Severity by history, checks of a load, holds of a sample, and deliveries that are put right. */
export class StopsAndLoads1796900000000 implements MigrationInterface {
  readonly transaction = false

  async up(runner: QueryRunner): Promise<void> {
    await restingForeignKeys(runner, async () => {
      for (const statement of statementsFor('sqlite', stopsAndLoads)) await runner.query(statement)
      for (const [table, column, type, start] of addedColumns)
        await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}${start === null ? '' : ` NOT NULL DEFAULT ('${start}')`}`)
      // Thousands of points at one operation: those of a part are found without reading the others.
      await runner.query('DROP INDEX "control_point_operation"')
      await runner.query('CREATE INDEX "control_point_operation" ON "control_point" ("operation_id", "moment", "part_id", "family_id")')
      // More may have come than was entered at first: what was corrected counts.
      await runner.query('DROP TRIGGER "movement_arrives_within_lot"')
      await runner.query(`CREATE TRIGGER "movement_arrives_within_lot" BEFORE INSERT ON "movement" WHEN NEW."from_place_id" IS NULL BEGIN
        SELECT CASE WHEN NEW."quantity" + COALESCE((SELECT SUM(b."quantity") FROM "balance" b WHERE b."lot_id" = NEW."lot_id"), 0) > ${arrivedSql}
        THEN RAISE(ABORT, 'more arrives than the lot holds') END; END`)
      // The one that keeps rows from being replaced is asked first: the latest is.
      await runner.query('DROP TRIGGER "movement_no_replace"')
      await runner.query(`CREATE TRIGGER "movement_no_replace" BEFORE INSERT ON "movement" WHEN EXISTS (SELECT 1 FROM "movement" WHERE "seq" = NEW."seq")
        BEGIN SELECT RAISE(ABORT, 'movement is append-only: the key is taken'); END`)
      // A load is decided lot by lot.
      await runner.query(`CREATE TABLE "decision_new" ("id" text PRIMARY KEY NOT NULL, "inspection_id" text, "lot_id" text NOT NULL, "follows_id" text,
        "signed_at" text NOT NULL, "signed_by_id" text NOT NULL, CONSTRAINT "decision_inspection" UNIQUE ("inspection_id", "lot_id"),
        CONSTRAINT "decision_follows" UNIQUE ("follows_id"), CONSTRAINT "decision_origin" CHECK (("inspection_id" IS NULL) <> ("follows_id" IS NULL)),
        CONSTRAINT "FK_888f01a507a886a47ce700d0bba" FOREIGN KEY ("inspection_id") REFERENCES "inspection" ("id"),
        CONSTRAINT "FK_decision_lot" FOREIGN KEY ("lot_id") REFERENCES "lot" ("id"),
        CONSTRAINT "FK_decision_follows" FOREIGN KEY ("follows_id") REFERENCES "decision" ("id"),
        CONSTRAINT "FK_6aa506af44787f372b8e5103962" FOREIGN KEY ("signed_by_id") REFERENCES "person" ("id"))`)
      await runner.query(
        `INSERT INTO "decision_new" SELECT "id", "inspection_id", "lot_id", "follows_id", "signed_at", "signed_by_id" FROM "decision" ORDER BY rowid`,
      )
      await runner.query('DROP TABLE "decision"')
      await runner.query('PRAGMA legacy_alter_table = ON')
      await runner.query('ALTER TABLE "decision_new" RENAME TO "decision"')
      await runner.query('PRAGMA legacy_alter_table = OFF')
      await runner.query('CREATE INDEX "decision_lot" ON "decision" ("lot_id")')
      for (const change of ['UPDATE', 'DELETE'])
        await runner.query(`CREATE TRIGGER "decision_no_${change.toLowerCase()}" BEFORE ${change} ON "decision"
          BEGIN SELECT RAISE(ABORT, 'decision is append-only'); END`)
      await runner.query(`CREATE TRIGGER "decision_no_replace" BEFORE INSERT ON "decision" WHEN EXISTS (SELECT 1 FROM "decision" WHERE "id" = NEW."id"
        OR ("inspection_id" = NEW."inspection_id" AND "lot_id" = NEW."lot_id") OR "follows_id" = NEW."follows_id")
        BEGIN SELECT RAISE(ABORT, 'decision is append-only: the key is taken'); END`)
      // A load is of no one part.
      const considerations = newTables
        .filter(({ name }) => name === 'consideration')
        .map((table) => ({ ...table, columns: table.columns.map((of) => (of.name === 'part_id' ? { ...of, isNullable: true } : of)) }))
      await runner.query('ALTER TABLE "consideration" RENAME TO "consideration_before"')
      await runner.query('DROP INDEX "consideration_history"')
      await runner.query('DROP INDEX "consideration_lot"')
      for (const statement of statementsFor('sqlite', considerations)) await runner.query(statement)
      await runner.query('INSERT INTO "consideration" SELECT * FROM "consideration_before"')
      await runner.query('DROP TABLE "consideration_before"')
    })
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
