import type { MigrationInterface, QueryRunner } from 'typeorm'
import { firstDecision, identityColumns, lineSeverity, setApartWhatIs } from './identity'
import { restingForeignKeys } from './restingForeignKeys'
import { statementsFor } from './tables'

/** The guards of the ledger that know sublots. */
const withSublots: Readonly<Record<string, string>> = {
  movement_not_overdrawn: `CREATE TRIGGER "movement_not_overdrawn" BEFORE INSERT ON "movement" WHEN NEW."from_place_id" IS NOT NULL BEGIN
    SELECT CASE WHEN NEW."quantity" > COALESCE((
      SELECT b."quantity" FROM "balance" b WHERE b."lot_id" = NEW."lot_id" AND b."container_id" = COALESCE(NEW."container_id", '')
        AND b."place_id" = NEW."from_place_id" AND b."standing" = NEW."from_standing" AND b."sublot" = NEW."from_sublot"), 0)
    THEN RAISE(ABORT, 'a movement takes more than there is') END; END`,
  movement_balanced: `CREATE TRIGGER "movement_balanced" AFTER INSERT ON "movement" BEGIN
    UPDATE "balance" SET "quantity" = "quantity" - NEW."quantity" WHERE "lot_id" = NEW."lot_id" AND "container_id" = COALESCE(NEW."container_id", '')
      AND "place_id" = NEW."from_place_id" AND "standing" = NEW."from_standing" AND "sublot" = NEW."from_sublot";
    INSERT INTO "balance" ("lot_id", "container_id", "place_id", "standing", "sublot", "quantity", "since_seq")
      VALUES (NEW."lot_id", COALESCE(NEW."container_id", ''), NEW."to_place_id", NEW."to_standing", NEW."to_sublot", NEW."quantity", NEW."seq")
      ON CONFLICT ("lot_id", "container_id", "place_id", "standing", "sublot") DO UPDATE SET "quantity" = "quantity" + excluded."quantity"; END`,
}

/** Pieces are meant by identity: sublots in the ledger and on holds; a first decision on any pieces. */
export class Identity1797600000000 implements MigrationInterface {
  readonly transaction = false

  async up(runner: QueryRunner): Promise<void> {
    await restingForeignKeys(runner, async () => {
      for (const statement of [...identityColumns('sqlite'), ...statementsFor('sqlite', [lineSeverity])]) await runner.query(statement)
      const guards = (await runner.query(`SELECT name, sql FROM sqlite_master WHERE tbl_name = 'movement' AND type = 'trigger' ORDER BY rowid`)) as {
        name: string
        sql: string
      }[]
      for (const { name } of guards) await runner.query(`DROP TRIGGER "${name}"`)
      await runner.query(`CREATE TABLE "balance_new" ("lot_id" text NOT NULL, "container_id" text NOT NULL, "place_id" text NOT NULL, "standing" text NOT NULL,
        "sublot" text NOT NULL, "quantity" integer NOT NULL, "since_seq" integer NOT NULL, CONSTRAINT "balance_not_negative" CHECK ("quantity" >= 0),
        PRIMARY KEY ("lot_id", "container_id", "place_id", "standing", "sublot"))`)
      await runner.query(
        `INSERT INTO "balance_new" SELECT "lot_id", "container_id", "place_id", "standing", '', "quantity", "since_seq" FROM "balance" ORDER BY rowid`,
      )
      await runner.query('DROP TABLE "balance"')
      await runner.query('ALTER TABLE "balance_new" RENAME TO "balance"')
      await runner.query('CREATE INDEX "balance_standing" ON "balance" ("standing", "lot_id") WHERE "quantity" > 0')
      // They are asked in the order in which they were made, the latest first.
      for (const { name, sql } of guards) await runner.query(withSublots[name] ?? sql)
      await this.freeFirstDecision(runner)
      // Samples may be worked out anew as long as nobody has answered.
      await runner.query('DROP TRIGGER "inspection_line_no_update"')
      await runner.query(`CREATE TRIGGER "inspection_line_no_update" BEFORE UPDATE ON "inspection_line" WHEN EXISTS (SELECT 1 FROM "reading" r WHERE r."line_id" = OLD."id")
        BEGIN SELECT RAISE(ABORT, 'inspection_line is answered'); END`)
      await setApartWhatIs(runner)
    })
  }

  private async freeFirstDecision(runner: QueryRunner): Promise<void> {
    const rows = (await runner.query(
      `SELECT name, sql FROM sqlite_master WHERE tbl_name = 'decision' AND type IN ('trigger', 'index') AND sql IS NOT NULL`,
    )) as {
      name: string
      sql: string
    }[]
    await runner.query(`CREATE TABLE "decision_new" ("id" text PRIMARY KEY NOT NULL, "inspection_id" text, "lot_id" text NOT NULL, "follows_id" text,
      "signed_at" text NOT NULL, "signed_by_id" text NOT NULL, CONSTRAINT "decision_inspection" UNIQUE ("inspection_id", "lot_id"),
      CONSTRAINT "decision_follows" UNIQUE ("follows_id"), CONSTRAINT "decision_origin" CHECK ("inspection_id" IS NULL OR "follows_id" IS NULL),
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
    for (const { sql } of rows) await runner.query(sql)
    await runner.query(firstDecision)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
