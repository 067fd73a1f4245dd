import type { MigrationInterface, QueryRunner } from 'typeorm'

/** When somebody was last seen at a session: no part of the plant's record, and not sealed. The same in a file and on a server. */
export class IdleEnd1798000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE TABLE "session_seen" ("token_hash" text PRIMARY KEY NOT NULL, "at" text NOT NULL)')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "session_seen"')
  }
}
