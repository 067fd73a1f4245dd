import type { QueryRunner } from 'typeorm'

/**
 * Runs a change of tables while the foreign keys rest, in a transaction of its own, and looks at the end whether every row still points
 * at one that is there. SQLite lets them rest outside a transaction only, so the migration says `transaction = false`.
 */
export async function restingForeignKeys(runner: QueryRunner, change: () => Promise<void>): Promise<void> {
  await runner.query('PRAGMA foreign_keys = OFF')
  await runner.query('BEGIN IMMEDIATE')
  try {
    await change()
    const lost = (await runner.query('PRAGMA foreign_key_check')) as unknown[]
    if (lost.length > 0) throw new Error(`${lost.length} rows point at rows that are not there.`)
    await runner.query('COMMIT')
  } catch (error) {
    await runner.query('ROLLBACK')
    throw error
  } finally {
    await runner.query('PRAGMA foreign_keys = ON')
  }
}
