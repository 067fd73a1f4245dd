import type { MigrationInterface, QueryRunner } from 'typeorm'
import { makeGauges } from './gauges'
import { restingForeignKeys } from './restingForeignKeys'

/** The register of gauges, and with which each value was measured. */
export class Gauges1798700000000 implements MigrationInterface {
  readonly transaction = false

  async up(runner: QueryRunner): Promise<void> {
    await restingForeignKeys(runner, () => makeGauges(runner, 'sqlite'))
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it.')
  }
}
