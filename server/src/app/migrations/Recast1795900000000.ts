import { randomUUID } from 'node:crypto'
import type { MigrationInterface, QueryRunner } from 'typeorm'
import { restingForeignKeys } from './restingForeignKeys'

/** The tables that are made anew, as the entities say them. */
const tables = {
  occasion: `(
    "id" text PRIMARY KEY NOT NULL,
    "kind" text NOT NULL,
    "operationId" text,
    "moment" text NOT NULL,
    "partnerId" text,
    "orderNumber" text NOT NULL,
    "placeId" text,
    "fromPlaceId" text,
    "at" text NOT NULL,
    "personId" text NOT NULL,
    CONSTRAINT "FK_739fe6a73ceac1c4ee22fb54e14" FOREIGN KEY ("operationId") REFERENCES "operation" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_5aaf00b319bc9ef62fae3504740" FOREIGN KEY ("partnerId") REFERENCES "partner" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_2f03be9cae7ca07b3af34deb769" FOREIGN KEY ("placeId") REFERENCES "place" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_65794950352c832f6a329248692" FOREIGN KEY ("fromPlaceId") REFERENCES "place" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_eb0304af4e2e22033e63de2054f" FOREIGN KEY ("personId") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
  delivery: `(
    "id" text PRIMARY KEY NOT NULL,
    "code" text NOT NULL,
    CONSTRAINT "UQ_e00121be3f7b06b7b32fa5c8223" UNIQUE ("code"),
    CONSTRAINT "FK_ffad7bf84e68716cd9af89003b0" FOREIGN KEY ("id") REFERENCES "occasion" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
  lot: `(
    "id" text PRIMARY KEY NOT NULL,
    "code" text NOT NULL,
    "partId" text NOT NULL,
    "supplierId" text,
    "supplierLot" text NOT NULL,
    "quantity" integer NOT NULL,
    "originId" text NOT NULL,
    "createdAt" text NOT NULL,
    CONSTRAINT "UQ_faa4ae0540ad6b7e3221877b446" UNIQUE ("code"),
    CONSTRAINT "FK_0de93374982e6482d3ced161a18" FOREIGN KEY ("partId") REFERENCES "part" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_a61b185f5f0654fa0994a1a24f5" FOREIGN KEY ("originId") REFERENCES "occasion" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_f51fee096b526cf8495c3bcfe8e" FOREIGN KEY ("supplierId") REFERENCES "partner" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
  lot_use: `(
    "id" text PRIMARY KEY NOT NULL,
    "fromLotId" text NOT NULL,
    "toLotId" text NOT NULL,
    "quantity" integer NOT NULL,
    "occasionId" text NOT NULL,
    "at" text NOT NULL,
    CONSTRAINT "lot_use_quantity" CHECK ("quantity" > 0 AND typeof("quantity") = 'integer'),
    CONSTRAINT "lot_use_other" CHECK ("fromLotId" <> "toLotId"),
    CONSTRAINT "FK_108b02a9799f5f9712526310444" FOREIGN KEY ("fromLotId") REFERENCES "lot" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_9706cb0052328db818e82b559fa" FOREIGN KEY ("toLotId") REFERENCES "lot" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_76855a8fa75b95328db687aa087" FOREIGN KEY ("occasionId") REFERENCES "occasion" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
  container: `(
    "id" text PRIMARY KEY NOT NULL,
    "lotId" text NOT NULL,
    "label" text NOT NULL,
    "quantity" integer NOT NULL,
    CONSTRAINT "UQ_395999957aee0838409582342d1" UNIQUE ("label"),
    CONSTRAINT "FK_0b1d41308b35a97a1e3d1319e14" FOREIGN KEY ("lotId") REFERENCES "lot" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
  movement: `(
    "seq" integer PRIMARY KEY AUTOINCREMENT NOT NULL,
    "lotId" text NOT NULL,
    "containerId" text,
    "quantity" integer NOT NULL,
    "fromPlaceId" text,
    "fromStanding" text,
    "toPlaceId" text NOT NULL,
    "toStanding" text NOT NULL,
    "kind" text NOT NULL,
    "at" text NOT NULL,
    "personId" text NOT NULL,
    "occasionId" text,
    "decisionId" text,
    "holdId" text,
    CONSTRAINT "movement_quantity" CHECK (("quantity" > 0 AND typeof("quantity") = 'integer')),
    CONSTRAINT "movement_from" CHECK ((("fromPlaceId" IS NULL) = ("fromStanding" IS NULL))),
    CONSTRAINT "FK_f18b31578610d770d2ef22a716b" FOREIGN KEY ("personId") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_e0847a023aac31a1045cb1adda6" FOREIGN KEY ("toPlaceId") REFERENCES "place" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_add6eb9e16ca3d9ef4c055f60fc" FOREIGN KEY ("fromPlaceId") REFERENCES "place" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_e13917f2b2b8ba5c5d3eea842e8" FOREIGN KEY ("containerId") REFERENCES "container" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_7d2903022b22eb930b1d815c976" FOREIGN KEY ("lotId") REFERENCES "lot" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_ab07976c33bc6ab1ac7b2813ac8" FOREIGN KEY ("occasionId") REFERENCES "occasion" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_40b460c9c7e4623378e854e955e" FOREIGN KEY ("decisionId") REFERENCES "decision" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_ac8270c82a6ed5677449864e82d" FOREIGN KEY ("holdId") REFERENCES "hold" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
  balance: `(
    "lotId" text NOT NULL,
    "containerId" text NOT NULL,
    "placeId" text NOT NULL,
    "standing" text NOT NULL,
    "quantity" integer NOT NULL,
    "sinceSeq" integer NOT NULL,
    CONSTRAINT "balance_not_negative" CHECK ("quantity" >= 0),
    PRIMARY KEY ("lotId", "containerId", "placeId", "standing"))`,
  hold: `(
    "id" text PRIMARY KEY NOT NULL,
    "lotId" text NOT NULL,
    "containerId" text,
    "causeKind" text NOT NULL,
    "causeId" text NOT NULL,
    "causeCode" text NOT NULL,
    "openedAt" text NOT NULL,
    "closedAt" text,
    "closedById" text,
    "decisionId" text,
    CONSTRAINT "FK_6bd2313d4362c14dedaa351161f" FOREIGN KEY ("lotId") REFERENCES "lot" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_1d7dfd06ba62c21295186866cad" FOREIGN KEY ("containerId") REFERENCES "container" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_445101afc62ffdfa805d038909b" FOREIGN KEY ("closedById") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_838fbc9be23dea5f5f7b4799c71" FOREIGN KEY ("decisionId") REFERENCES "decision" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
  series: `(
    "id" text PRIMARY KEY NOT NULL,
    "characteristicId" text NOT NULL,
    "partId" text NOT NULL,
    "operationId" text NOT NULL,
    CONSTRAINT "series_of" UNIQUE ("characteristicId", "partId", "operationId"),
    CONSTRAINT "FK_c4345cb1961109fd67875034b17" FOREIGN KEY ("characteristicId") REFERENCES "characteristic" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_fa6ccc782f9bd0a9ffb83fee6eb" FOREIGN KEY ("partId") REFERENCES "part" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_fe0b3138d10e0befee082030c9a" FOREIGN KEY ("operationId") REFERENCES "operation" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
  inspection: `(
    "id" text PRIMARY KEY NOT NULL,
    "code" text NOT NULL,
    "controlPointId" text NOT NULL,
    "planRevisionId" text NOT NULL,
    "operationId" text NOT NULL,
    "lotId" text,
    "state" text NOT NULL,
    "isGate" boolean NOT NULL,
    "holdPlaceId" text,
    "lotSize" integer NOT NULL,
    "asked" integer NOT NULL,
    "answered" integer NOT NULL,
    "openedAt" text NOT NULL,
    "startedAt" text,
    "startedById" text,
    "finishedAt" text,
    "finishedById" text,
    "verdict" text,
    "finding" text,
    "version" integer NOT NULL,
    "followsId" text,
    "skips" text,
    "onFailure" text NOT NULL DEFAULT ('hold'),
    "cancelledAt" text,
    "cancelledById" text,
    "cancelReason" text,
    "sampleMost" integer,
    "lineCount" integer,
    "subjectKind" text NOT NULL,
    "subjectId" text NOT NULL,
    "occasionId" text,
    CONSTRAINT "UQ_fe658292726a53c40c8591c4ce3" UNIQUE ("code"),
    CONSTRAINT "FK_6837dafa0184a3e5def6ce9301b" FOREIGN KEY ("controlPointId") REFERENCES "control_point" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_e142433e4982b73450295c48008" FOREIGN KEY ("planRevisionId") REFERENCES "plan_revision" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_380bb0ff5ee89affd3fc6929e15" FOREIGN KEY ("operationId") REFERENCES "operation" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_65112c8881d62d2b599af598e21" FOREIGN KEY ("lotId") REFERENCES "lot" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_d72ac472015c683bc1b2a088947" FOREIGN KEY ("occasionId") REFERENCES "occasion" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_0a13500929c4539038ff9f3bd24" FOREIGN KEY ("holdPlaceId") REFERENCES "place" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_1f9e89afc026ccdd5039090dc1a" FOREIGN KEY ("startedById") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION,
    CONSTRAINT "FK_b504a5911a9d9b07a21f53fff90" FOREIGN KEY ("finishedById") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)`,
} as const

const indexes = [
  '"occasion_at" ON "occasion" ("kind", "at", "id")',
  '"occasion_partner" ON "occasion" ("partnerId", "orderNumber")',
  '"lot_use_from" ON "lot_use" ("fromLotId")',
  '"lot_use_to" ON "lot_use" ("toLotId")',
  '"balance_standing" ON "balance" ("standing", "lotId") WHERE "quantity" > 0',
  '"hold_lot" ON "hold" ("lotId")',
  '"hold_cause" ON "hold" ("causeId")',
  '"movement_lot" ON "movement" ("lotId", "seq")',
  '"inspection_follows" ON "inspection" ("followsId")',
  '"inspection_finished" ON "inspection" ("finishedAt")',
  '"inspection_opened" ON "inspection" ("openedAt", "id")',
  '"inspection_state" ON "inspection" ("state", "openedAt", "id")',
  '"inspection_lot" ON "inspection" ("lotId")',
  '"lot_origin" ON "lot" ("originId")',
  '"lot_created" ON "lot" ("createdAt", "id")',
  '"lot_part" ON "lot" ("partId", "createdAt")',
  '"lot_supplier" ON "lot" ("supplierId", "createdAt")',
  '"container_lot" ON "container" ("lotId")',
  '"inspection_subject" ON "inspection" ("subjectId")',
  '"inspection_line_characteristic" ON "inspection_line" ("characteristicRevisionId")',
  '"reading_series" ON "reading" ("seriesId", "takenAt")',
]

const inspectionColumns =
  '"id", "code", "controlPointId", "planRevisionId", "operationId", "lotId", "state", "isGate", "holdPlaceId", "lotSize", "asked", "answered", "openedAt", "startedAt", "startedById", "finishedAt", "finishedById", "verdict", "finding", "version", "followsId", "skips", "onFailure", "cancelledAt", "cancelledById", "cancelReason", "sampleMost", "lineCount"'

/** What the database refuses by itself, and the balances that it keeps. */
const guards = [
  `"movement_no_update" BEFORE UPDATE ON "movement" BEGIN SELECT RAISE(ABORT, 'movement is append-only'); END`,
  `"movement_no_delete" BEFORE DELETE ON "movement" BEGIN SELECT RAISE(ABORT, 'movement is append-only'); END`,
  `"movement_not_overdrawn" BEFORE INSERT ON "movement" WHEN NEW."fromPlaceId" IS NOT NULL BEGIN
    SELECT CASE WHEN NEW."quantity" > COALESCE((
      SELECT b."quantity" FROM "balance" b WHERE b."lotId" = NEW."lotId" AND b."containerId" = COALESCE(NEW."containerId", '')
        AND b."placeId" = NEW."fromPlaceId" AND b."standing" = NEW."fromStanding"), 0)
    THEN RAISE(ABORT, 'a movement takes more than there is') END; END`,
  `"movement_arrives_within_lot" BEFORE INSERT ON "movement" WHEN NEW."fromPlaceId" IS NULL BEGIN
    SELECT CASE WHEN NEW."quantity" + COALESCE((SELECT SUM(b."quantity") FROM "balance" b WHERE b."lotId" = NEW."lotId"), 0)
      > (SELECT l."quantity" FROM "lot" l WHERE l."id" = NEW."lotId") THEN RAISE(ABORT, 'more arrives than the lot holds') END; END`,
  `"movement_container_of_lot" BEFORE INSERT ON "movement" WHEN NEW."containerId" IS NOT NULL BEGIN
    SELECT CASE WHEN (SELECT c."lotId" FROM "container" c WHERE c."id" = NEW."containerId") IS NOT NEW."lotId"
      THEN RAISE(ABORT, 'the container belongs to another lot') END; END`,
  `"movement_no_release_of_held" BEFORE INSERT ON "movement" WHEN NEW."fromStanding" = 'onHold' AND NEW."toStanding" IN ('used', 'shipped') BEGIN
    SELECT RAISE(ABORT, 'pieces on hold can be neither used nor shipped'); END`,
  `"movement_balanced" AFTER INSERT ON "movement" BEGIN
    UPDATE "balance" SET "quantity" = "quantity" - NEW."quantity" WHERE "lotId" = NEW."lotId" AND "containerId" = COALESCE(NEW."containerId", '')
      AND "placeId" = NEW."fromPlaceId" AND "standing" = NEW."fromStanding";
    INSERT INTO "balance" ("lotId", "containerId", "placeId", "standing", "quantity", "sinceSeq")
      VALUES (NEW."lotId", COALESCE(NEW."containerId", ''), NEW."toPlaceId", NEW."toStanding", NEW."quantity", NEW."seq")
      ON CONFLICT ("lotId", "containerId", "placeId", "standing") DO UPDATE SET "quantity" = "quantity" + excluded."quantity"; END`,
  `"movement_no_replace" BEFORE INSERT ON "movement" WHEN EXISTS (SELECT 1 FROM "movement" WHERE "seq" = NEW."seq") BEGIN SELECT RAISE(ABORT, 'movement is append-only: the key is taken'); END`,
  `"lot_quantity_stays" BEFORE UPDATE OF "quantity" ON "lot" BEGIN SELECT RAISE(ABORT, 'what arrived is not changed'); END`,
  `"lot_use_no_update" BEFORE UPDATE ON "lot_use" BEGIN SELECT RAISE(ABORT, 'lot_use is append-only'); END`,
  `"lot_use_no_delete" BEFORE DELETE ON "lot_use" BEGIN SELECT RAISE(ABORT, 'lot_use is append-only'); END`,
  `"lot_use_no_replace" BEFORE INSERT ON "lot_use" WHEN EXISTS (SELECT 1 FROM "lot_use" WHERE "id" = NEW."id") BEGIN SELECT RAISE(ABORT, 'lot_use is append-only: the key is taken'); END`,
  `"hold_no_delete" BEFORE DELETE ON "hold" BEGIN SELECT RAISE(ABORT, 'a hold is ended, not deleted'); END`,
  `"reading_no_update" BEFORE UPDATE ON "reading" BEGIN SELECT RAISE(ABORT, 'reading is append-only'); END`,
  `"inspection_line_no_update" BEFORE UPDATE ON "inspection_line" BEGIN SELECT RAISE(ABORT, 'inspection_line is append-only'); END`,
]

/**
 * Lots come from occasions, of which a delivery is one kind, and go into other lots; movements name the occasion, the decision or the
 * hold that they belong to; balances are kept beside the ledger; holds have an identity; inspections have a subject; measured values
 * stand as numbers on a series. Labels of containers that were used more than once get the number of their lot before them.
 */
export class Recast1795900000000 implements MigrationInterface {
  name = 'Recast1795900000000'
  transaction = false

  async up(runner: QueryRunner): Promise<void> {
    await restingForeignKeys(runner, async () => {
      await runner.query('PRAGMA legacy_alter_table = ON')
      await this.change(runner)
      await runner.query('PRAGMA legacy_alter_table = OFF')
    })
  }

  private async change(runner: QueryRunner): Promise<void> {
    /** Makes a table anew and fills it by the statement, which reads the old one under its name. */
    const anew = async (table: keyof typeof tables, fill: string) => {
      await runner.query(`CREATE TABLE "new_${table}" ${tables[table]}`)
      await runner.query(`INSERT INTO "new_${table}" ${fill}`)
      await runner.query(`DROP TABLE "${table}"`)
      await runner.query(`ALTER TABLE "new_${table}" RENAME TO "${table}"`)
    }
    for (const table of ['occasion', 'lot_use', 'balance', 'hold', 'series'] as const) await runner.query(`CREATE TABLE "${table}" ${tables[table]}`)

    await runner.query(`INSERT INTO "occasion" ("id", "kind", "moment", "partnerId", "orderNumber", "at", "personId")
      SELECT "id", 'delivery', 'arrival', "supplierId", "orderNumber", "receivedAt", "receivedById" FROM "delivery" ORDER BY rowid`)
    const inspections = (await runner.query(`SELECT i.id, i.code, i.lotId, i.isGate, i.openedAt, i.finishedAt, i.cancelledAt, i.cancelledById,
        d.id AS decisionId, d.signedAt, d.signedById FROM "inspection" i LEFT JOIN "decision" d ON d.inspectionId = i.id WHERE i.holds = 1 ORDER BY i.rowid`)) as Record<
      string,
      unknown
    >[]
    for (const { id, code, lotId, isGate, openedAt, finishedAt, cancelledAt, cancelledById, decisionId, signedAt, signedById } of inspections) {
      await runner.query(
        `INSERT INTO "hold" ("id", "lotId", "causeKind", "causeId", "causeCode", "openedAt", "closedAt", "closedById", "decisionId") VALUES (?,?,'inspection',?,?,?,?,?,?)`,
        [
          randomUUID(),
          lotId,
          id,
          code,
          isGate === 1 ? openedAt : (finishedAt ?? openedAt),
          signedAt ?? cancelledAt,
          signedById ?? cancelledById,
          decisionId,
        ],
      )
    }

    await anew(
      'container',
      `("id", "lotId", "label", "quantity") SELECT c.id, c.lotId,
      CASE WHEN (SELECT COUNT(*) FROM "container" o WHERE o.label = c.label) > 1 THEN l.code || '/' || c.label ELSE c.label END, c.quantity
      FROM "container" c JOIN "lot" l ON l.id = c.lotId ORDER BY c.rowid`,
    )
    await anew(
      'lot',
      `("id", "code", "partId", "supplierId", "supplierLot", "quantity", "originId", "createdAt")
      SELECT "id", "code", "partId", "supplierId", "supplierLot", "quantity", "deliveryId", "receivedAt" FROM "lot" ORDER BY rowid`,
    )
    await anew('delivery', `("id", "code") SELECT "id", "code" FROM "delivery" ORDER BY rowid`)
    await anew(
      'movement',
      `("seq", "lotId", "containerId", "quantity", "fromPlaceId", "fromStanding", "toPlaceId", "toStanding", "kind", "at", "personId", "occasionId", "decisionId", "holdId")
      SELECT m.seq, m.lotId, m.containerId, m.quantity, m.fromPlaceId, m.fromStanding, m.toPlaceId, m.toStanding, m.kind, m.at, m.personId, o.id, d.id, h.id
      FROM "movement" m LEFT JOIN "occasion" o ON o.id = m.causeId LEFT JOIN "decision" d ON d.id = m.causeId LEFT JOIN "hold" h ON h.causeId = m.causeId ORDER BY m.seq`,
    )
    await runner.query(`INSERT INTO "balance" ("lotId", "containerId", "placeId", "standing", "quantity", "sinceSeq")
      SELECT lotId, COALESCE(containerId, ''), placeId, standing, SUM(quantity), MIN(CASE WHEN quantity > 0 THEN seq END) FROM (
        SELECT seq, lotId, containerId, toPlaceId AS placeId, toStanding AS standing, quantity FROM "movement"
        UNION ALL SELECT seq, lotId, containerId, fromPlaceId, fromStanding, -quantity FROM "movement" WHERE fromPlaceId IS NOT NULL) GROUP BY 1, 2, 3, 4`)
    await anew(
      'inspection',
      `(${inspectionColumns}, "subjectKind", "subjectId", "occasionId")
      SELECT ${inspectionColumns}, 'lot', "lotId", (SELECT l.originId FROM "lot" l WHERE l.id = "inspection"."lotId") FROM "inspection" ORDER BY rowid`,
    )

    await runner.query('DROP TRIGGER "inspection_line_no_update"')
    await runner.query('ALTER TABLE "inspection_line" ADD COLUMN "seriesId" text')
    const series = (await runner.query(`SELECT DISTINCT c.characteristicId, l.partId, i.operationId FROM "inspection_line" n
      JOIN "characteristic_revision" c ON c.id = n.characteristicRevisionId AND c.kind = 'measured'
      JOIN "inspection" i ON i.id = n.inspectionId JOIN "lot" l ON l.id = i.lotId`)) as {
      characteristicId: string
      partId: string
      operationId: string
    }[]
    for (const { characteristicId, partId, operationId } of series)
      await runner.query('INSERT INTO "series" ("id", "characteristicId", "partId", "operationId") VALUES (?,?,?,?)', [
        randomUUID(),
        characteristicId,
        partId,
        operationId,
      ])
    await runner.query(`UPDATE "inspection_line" SET "seriesId" = (SELECT s.id FROM "characteristic_revision" c, "inspection" i, "lot" l, "series" s
      WHERE c.id = "inspection_line"."characteristicRevisionId" AND c.kind = 'measured' AND i.id = "inspection_line"."inspectionId" AND l.id = i.lotId
        AND s.characteristicId = c.characteristicId AND s.partId = l.partId AND s.operationId = i.operationId)`)

    await runner.query('DROP TRIGGER "reading_no_update"')
    for (const [column, type] of [
      ['number', 'real'],
      ['takenAt', 'text'],
      ['seriesId', 'text'],
    ])
      await runner.query(`ALTER TABLE "reading" ADD COLUMN "${column}" ${type}`)
    await runner.query(
      `UPDATE "reading" SET "takenAt" = "typedAt", "seriesId" = (SELECT n.seriesId FROM "inspection_line" n WHERE n.id = "reading"."lineId")`,
    )
    await runner.query(`UPDATE "reading" SET "number" = CAST("value" AS REAL) WHERE "value" IS NOT NULL AND "seriesId" IS NOT NULL AND EXISTS (
      SELECT 1 FROM "inspection_line" n JOIN "characteristic_revision" c ON c.id = n.characteristicRevisionId
      WHERE n.id = "reading"."lineId" AND COALESCE(json_extract(c.details, '$.recording'), 'pieces') = 'pieces')`)

    for (const index of indexes) await runner.query(`CREATE INDEX ${index}`)
    for (const guard of guards) await runner.query(`CREATE TRIGGER ${guard}`)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
