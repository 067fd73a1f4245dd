import type { MigrationInterface, QueryRunner } from 'typeorm'
import { guardWords } from './KnownWords1798600000000'

const columns = [
  ['control_point', 'on_failure'],
  ['inspection', 'on_failure'],
] as const
/** What becomes of the pieces when an inspection that is no gate fails: of a run it may be what was made since the last check that conformed. */
export const onFailures = ['hold', 'holdMade', 'note']

export class HoldMade1799000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    const isServer = runner.connection.options.type === 'postgres'
    for (const [table, column] of columns) {
      for (const name of ['new', 'next'])
        await runner.query(isServer ? `DROP TRIGGER ${name}_${column}_known ON "${table}"` : `DROP TRIGGER "${name}_${table}_${column}_known"`)
      await guardWords(runner, table, column, onFailures)
    }
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it.')
  }
}
