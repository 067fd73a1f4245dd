import type { MigrationInterface, QueryRunner } from 'typeorm'

/**
 * Columns are called in snake_case, which both databases take without quotes; `lotSize` becomes `lot_size`. SQLite writes indexes,
 * checks and triggers that speak of a column anew itself.
 */
export class SnakeCase1796000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    const columns = (await runner.query(`SELECT m.name AS "table", c.name AS "column" FROM sqlite_master m JOIN pragma_table_info(m.name) c
      WHERE m.type = 'table' AND m.name NOT LIKE 'sqlite_%' AND c.name <> lower(c.name) ORDER BY m.name, c.cid`)) as {
      table: string
      column: string
    }[]
    for (const { table, column } of columns) {
      const to = column.replaceAll(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)
      await runner.query(`ALTER TABLE "${table}" RENAME COLUMN "${column}" TO "${to}"`)
    }
  }

  async down(): Promise<void> {
    throw new Error('This migration cannot be undone. Restore the copy that was kept before it, in the folder backups.')
  }
}
