import type { MigrationInterface, QueryRunner } from 'typeorm'
import { firstDecision, identityColumns, lineSeverity, setApartWhatIs } from '../identity'
import { arrivedSql } from '../stopsAndLoads'
import { statementsFor } from '../tables'
import { movementAllowed } from './guards'

/** Pieces are meant by identity: sublots in the ledger and on holds; a first decision on any pieces. On a server. */
export class IdentityThere1797600000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of [...identityColumns('postgres'), ...statementsFor('postgres', [lineSeverity])]) await runner.query(statement)
    await runner.query('CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "line_severity" FOR EACH ROW EXECUTE FUNCTION touch()')
    await runner.query(`ALTER TABLE "balance" ADD "sublot" text COLLATE "C" NOT NULL DEFAULT ''`)
    await runner.query('ALTER TABLE "balance" ALTER COLUMN "sublot" DROP DEFAULT')
    await runner.query('ALTER TABLE "balance" DROP CONSTRAINT "PK_c2d239f511dcd55ee0f88008342"')
    await runner.query('ALTER TABLE "balance" ADD CONSTRAINT "PK_balance" PRIMARY KEY ("lot_id", "container_id", "place_id", "standing", "sublot")')
    await runner.query(
      `CREATE OR REPLACE FUNCTION ${movementAllowed(arrivedSql).replace(
        'b.standing = NEW.from_standing',
        'b.standing = NEW.from_standing AND b.sublot = NEW.from_sublot',
      )}`,
    )
    await runner.query(`CREATE OR REPLACE FUNCTION movement_balanced() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE balance SET quantity = quantity - NEW.quantity WHERE lot_id = NEW.lot_id AND container_id = COALESCE(NEW.container_id, '')
          AND place_id = NEW.from_place_id AND standing = NEW.from_standing AND sublot = NEW.from_sublot;
        INSERT INTO balance (lot_id, container_id, place_id, standing, sublot, quantity, since_seq)
          VALUES (NEW.lot_id, COALESCE(NEW.container_id, ''), NEW.to_place_id, NEW.to_standing, NEW.to_sublot, NEW.quantity, NEW.seq)
          ON CONFLICT (lot_id, container_id, place_id, standing, sublot) DO UPDATE SET quantity = balance.quantity + excluded.quantity;
        RETURN NULL;
      END $$`)
    await runner.query('ALTER TABLE "decision" DROP CONSTRAINT "decision_origin"')
    await runner.query('ALTER TABLE "decision" ADD CONSTRAINT "decision_origin" CHECK ("inspection_id" IS NULL OR "follows_id" IS NULL)')
    await runner.query(firstDecision)
    // Samples may be worked out anew as long as nobody has answered.
    await runner.query(`CREATE FUNCTION refuse_answered() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
      IF EXISTS (SELECT 1 FROM reading r WHERE r.line_id = OLD.id) THEN RAISE EXCEPTION 'inspection_line is answered'; END IF;
      RETURN NEW; END $$`)
    await runner.query('DROP TRIGGER inspection_line_no_update ON inspection_line')
    await runner.query('CREATE TRIGGER inspection_line_no_update BEFORE UPDATE ON inspection_line FOR EACH ROW EXECUTE FUNCTION refuse_answered()')
    await setApartWhatIs(runner)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
