import type { MigrationInterface, QueryRunner } from 'typeorm'
import { restingForeignKeys } from './restingForeignKeys'

/** Tables whose rows are only ever added, with what tells their rows apart. */
const appendOnly: Readonly<Record<string, readonly string[][]>> = {
  movement: [['seq']],
  reading: [['id'], ['inspectionId', 'lineId', 'piece', 'correction']],
  audit: [['seq']],
  decision: [['id'], ['inspectionId'], ['followsId']],
  decision_part: [['decisionId', 'position']],
  inspection_line: [['id'], ['inspectionId', 'position']],
}

/** What a movement was for, from the words that it was given before. */
const kinds: Readonly<Record<string, string>> = {
  'put away': 'putAway',
  'use as is (concession)': 'concession',
  'return to supplier': 'returnToSupplier',
}

const decisionColumns = '"id", "inspectionId", "lotId", "followsId", "signedAt", "signedById"'

/**
 * Rows are sealed in the chain; movements and decisions keep kinds instead of words; pieces can be decided on again, by a decision that
 * names the one before; an inspection says what it holds and can be cancelled; `REPLACE` cannot pass the append-only guards.
 */
export class Mended1795700000000 implements MigrationInterface {
  name = 'Mended1795700000000'
  transaction = false

  async up(runner: QueryRunner): Promise<void> {
    await restingForeignKeys(runner, async () => {
      await this.change(runner)
    })
  }

  private async change(runner: QueryRunner): Promise<void> {
    const guard = (table: string, act: 'UPDATE' | 'DELETE') =>
      runner.query(
        `CREATE TRIGGER "${table}_no_${act.toLowerCase()}" BEFORE ${act} ON "${table}" BEGIN SELECT RAISE(ABORT, '${table} is append-only'); END`,
      )
    await runner.query('ALTER TABLE "audit" ADD COLUMN "rows" text')
    await runner.query('CREATE INDEX "audit_at" ON "audit" ("at", "seq")')

    await runner.query('DROP TRIGGER "movement_no_update"')
    await runner.query('ALTER TABLE "movement" RENAME COLUMN "why" TO "kind"')
    for (const [words, kind] of Object.entries(kinds)) await runner.query('UPDATE "movement" SET "kind" = ? WHERE "kind" = ?', [kind, words])
    await guard('movement', 'UPDATE')

    await runner.query(`CREATE TABLE "new_decision" ("id" text PRIMARY KEY NOT NULL, "inspectionId" text, "lotId" text NOT NULL, "followsId" text, "signedAt" text NOT NULL, "signedById" text NOT NULL,
      CONSTRAINT "decision_inspection" UNIQUE ("inspectionId"), CONSTRAINT "decision_follows" UNIQUE ("followsId"), CONSTRAINT "decision_origin" CHECK (("inspectionId" IS NULL) <> ("followsId" IS NULL)),
      CONSTRAINT "FK_888f01a507a886a47ce700d0bba" FOREIGN KEY ("inspectionId") REFERENCES "inspection" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
      CONSTRAINT "FK_decision_lot" FOREIGN KEY ("lotId") REFERENCES "lot" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
      CONSTRAINT "FK_decision_follows" FOREIGN KEY ("followsId") REFERENCES "decision" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
      CONSTRAINT "FK_6aa506af44787f372b8e5103962" FOREIGN KEY ("signedById") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`)
    await runner.query(`INSERT INTO "new_decision" (${decisionColumns})
      SELECT d.id, d.inspectionId, i.lotId, NULL, d.signedAt, d.signedById FROM "decision" d JOIN "inspection" i ON i.id = d.inspectionId ORDER BY d.rowid`)
    await runner.query('DROP TABLE "decision"')
    await runner.query('PRAGMA legacy_alter_table = ON')
    await runner.query('ALTER TABLE "new_decision" RENAME TO "decision"')
    await runner.query('PRAGMA legacy_alter_table = OFF')
    await runner.query('CREATE INDEX "decision_lot" ON "decision" ("lotId")')
    await guard('decision', 'UPDATE')
    await guard('decision', 'DELETE')
    await runner.query('ALTER TABLE "decision_part" ADD COLUMN "placeId" text')
    await runner.query('ALTER TABLE "decision_part" ADD COLUMN "standing" text')

    await runner.query(`ALTER TABLE "control_point" ADD COLUMN "onFailure" text NOT NULL DEFAULT ('hold')`)
    await runner.query(`ALTER TABLE "inspection" ADD COLUMN "onFailure" text NOT NULL DEFAULT ('hold')`)
    await runner.query('ALTER TABLE "inspection" ADD COLUMN "holds" boolean NOT NULL DEFAULT (0)')
    await runner.query('UPDATE "inspection" SET "holds" = "isGate"')
    for (const column of ['cancelledAt', 'cancelledById', 'cancelReason']) await runner.query(`ALTER TABLE "inspection" ADD COLUMN "${column}" text`)
    for (const column of ['sampleMost', 'lineCount']) await runner.query(`ALTER TABLE "inspection" ADD COLUMN "${column}" integer`)
    await runner.query(`UPDATE "inspection" SET "sampleMost" = (SELECT MAX(n.sampleSize) FROM inspection_line n WHERE n.inspectionId = inspection.id),
      "lineCount" = (SELECT COUNT(*) FROM inspection_line n WHERE n.inspectionId = inspection.id)`)
    await runner.query('ALTER TABLE "inspection" DROP COLUMN "sampleWords"')
    await runner.query(`ALTER TABLE "session" ADD COLUMN "agent" text NOT NULL DEFAULT ('')`)

    for (const [table, uniques] of Object.entries(appendOnly)) {
      const same = uniques.map((columns) => `(${columns.map((column) => `"${column}" = NEW."${column}"`).join(' AND ')})`).join(' OR ')
      await runner.query(
        `CREATE TRIGGER "${table}_no_replace" BEFORE INSERT ON "${table}" WHEN EXISTS (SELECT 1 FROM "${table}" WHERE ${same}) BEGIN SELECT RAISE(ABORT, '${table} is append-only: the key is taken'); END`,
      )
    }
  }

  /** Words are not made again from kinds: going back is what the copy is for that was kept before. */
  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
