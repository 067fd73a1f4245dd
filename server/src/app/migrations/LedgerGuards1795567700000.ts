import type { MigrationInterface, QueryRunner } from 'typeorm'

const appendOnly = ['movement', 'reading', 'audit', 'decision', 'decision_part', 'inspection_line']

/** What the database itself refuses, so that direct SQL cannot break the ledger, the chain, or what was signed. */
export class LedgerGuards1795567700000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const table of appendOnly) {
      await runner.query(`CREATE TRIGGER "${table}_no_update" BEFORE UPDATE ON "${table}" BEGIN SELECT RAISE(ABORT, '${table} is append-only'); END`)
      await runner.query(`CREATE TRIGGER "${table}_no_delete" BEFORE DELETE ON "${table}" BEGIN SELECT RAISE(ABORT, '${table} is append-only'); END`)
    }
    await runner.query(`CREATE TRIGGER "movement_not_overdrawn" BEFORE INSERT ON "movement" WHEN NEW."fromPlaceId" IS NOT NULL BEGIN
      SELECT CASE WHEN NEW."quantity" > (
        SELECT COALESCE(SUM(CASE WHEN m."toPlaceId" = NEW."fromPlaceId" AND m."toStanding" = NEW."fromStanding" THEN m."quantity" ELSE 0 END), 0)
             - COALESCE(SUM(CASE WHEN m."fromPlaceId" = NEW."fromPlaceId" AND m."fromStanding" = NEW."fromStanding" THEN m."quantity" ELSE 0 END), 0)
        FROM "movement" m WHERE m."lotId" = NEW."lotId" AND m."containerId" IS NEW."containerId"
      ) THEN RAISE(ABORT, 'a movement takes more than there is') END;
    END`)
    await runner.query(`CREATE TRIGGER "movement_arrives_within_lot" BEFORE INSERT ON "movement" WHEN NEW."fromPlaceId" IS NULL BEGIN
      SELECT CASE WHEN NEW."quantity" + (
        SELECT COALESCE(SUM(m."quantity"), 0) FROM "movement" m WHERE m."lotId" = NEW."lotId" AND m."fromPlaceId" IS NULL
      ) > (SELECT l."quantity" FROM "lot" l WHERE l."id" = NEW."lotId") THEN RAISE(ABORT, 'more arrives than the lot holds') END;
    END`)
    await runner.query(`CREATE TRIGGER "movement_container_of_lot" BEFORE INSERT ON "movement" WHEN NEW."containerId" IS NOT NULL BEGIN
      SELECT CASE WHEN (SELECT c."lotId" FROM "container" c WHERE c."id" = NEW."containerId") IS NOT NEW."lotId"
        THEN RAISE(ABORT, 'the container belongs to another lot') END;
    END`)
    await runner.query(`CREATE TRIGGER "movement_no_release_of_held" BEFORE INSERT ON "movement" WHEN NEW."fromStanding" = 'onHold' AND NEW."toStanding" IN ('used', 'shipped') BEGIN
      SELECT RAISE(ABORT, 'pieces on hold can be neither used nor shipped');
    END`)
    await runner.query(
      `CREATE TRIGGER "lot_quantity_stays" BEFORE UPDATE OF "quantity" ON "lot" BEGIN SELECT RAISE(ABORT, 'what arrived is not changed'); END`,
    )
  }

  async down(runner: QueryRunner): Promise<void> {
    const triggers = appendOnly.flatMap((table) => [`${table}_no_update`, `${table}_no_delete`])
    triggers.push(
      'movement_not_overdrawn',
      'movement_arrives_within_lot',
      'movement_container_of_lot',
      'movement_no_release_of_held',
      'lot_quantity_stays',
    )
    for (const trigger of triggers) await runner.query(`DROP TRIGGER "${trigger}"`)
  }
}
