import type { MigrationInterface, QueryRunner } from 'typeorm'
import { byHandStatements } from '../byHand'

/** Inspections that somebody opens by hand, on a server. */
export class ByHandThere1797700000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of byHandStatements('postgres')) await runner.query(statement)
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Make the database anew.')
  }
}
