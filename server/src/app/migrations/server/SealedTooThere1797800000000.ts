import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Running numbers and remembered answers are sealed, too, on a server; answers go by themselves after a while, of which nothing is noted. */
export class SealedTooThere1797800000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE OR DELETE ON "counter" FOR EACH ROW EXECUTE FUNCTION touch('name')`)
    await runner.query(`CREATE TRIGGER touch AFTER INSERT OR UPDATE ON "request_key" FOR EACH ROW EXECUTE FUNCTION touch('key', 'person_id')`)
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['counter', 'request_key']) await runner.query(`DROP TRIGGER touch ON "${table}"`)
  }
}
