import type { MigrationInterface, QueryRunner } from 'typeorm'

/**
 * Which standing pieces can come to from which, as the core says it: kept here as it was when this was written. Where the core changes, a test
 * says so, and another migration changes the guard.
 */
export const standingSteps: Readonly<Record<string, readonly string[]>> = {
  onHold: ['onHold', 'released', 'quarantined', 'inRework', 'rejected', 'scrapped', 'returned', 'notArrived'],
  released: ['released', 'onHold', 'quarantined', 'scrapped', 'returned', 'used', 'shipped', 'notArrived'],
  quarantined: ['quarantined', 'onHold', 'released', 'inRework', 'rejected', 'scrapped', 'returned'],
  inRework: ['inRework', 'onHold', 'scrapped'],
  rejected: ['rejected', 'onHold', 'quarantined', 'scrapped', 'returned'],
  scrapped: ['quarantined'],
  returned: [],
  shipped: ['onHold'],
  used: [],
  notArrived: ['onHold', 'released'],
}

const words = 'pieces cannot come from that standing to this one'
const isOther = `NEW."from_standing" IS NOT NULL AND NEW."from_standing" || ' ' || NEW."to_standing" NOT IN (${Object.entries(standingSteps)
  .flatMap(([from, to]) => to.map((each) => `'${from} ${each}'`))
  .join(', ')})`

/**
 * The ledger takes no step between two standings that the core would not take: also of whoever writes past it. The same in a file and on a server,
 * where guards act in the order of their names: this one comes before the one that counts.
 */
export class StandingSteps1798500000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      runner.connection.options.type === 'postgres'
        ? `CREATE TRIGGER forbidden_movement_step BEFORE INSERT ON movement FOR EACH ROW WHEN (${isOther}) EXECUTE FUNCTION refuse('${words}')`
        : `CREATE TRIGGER "forbidden_movement_step" BEFORE INSERT ON "movement" WHEN ${isOther} BEGIN SELECT RAISE(ABORT, '${words}'); END`,
    )
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TRIGGER "forbidden_movement_step"${runner.connection.options.type === 'postgres' ? ' ON movement' : ''}`)
  }
}
