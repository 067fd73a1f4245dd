import type { MigrationInterface, QueryRunner } from 'typeorm'
import { makeGauges } from '../gauges'

/** The register of gauges, and with which each value was measured, on a server. */
export class GaugesThere1798700000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await makeGauges(runner, 'postgres')
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it.')
  }
}
