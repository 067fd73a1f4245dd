import type { MigrationInterface, QueryRunner } from 'typeorm'

/** The words of the samples stand on the inspection: the queue, read most of all, need not add its lines up for each row. */
export class SampleWords1795614000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "inspection" ADD COLUMN "sampleWords" text')
    await runner.query(`UPDATE inspection SET sampleWords = (
      SELECT MAX(n.sampleSize) || CASE WHEN MAX(n.sampleSize) = 1 THEN ' piece, ' ELSE ' pieces, ' END || COUNT(*) || CASE WHEN COUNT(*) = 1 THEN ' line' ELSE ' lines' END
      FROM inspection_line n WHERE n.inspectionId = inspection.id)`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "inspection" DROP COLUMN "sampleWords"')
  }
}
