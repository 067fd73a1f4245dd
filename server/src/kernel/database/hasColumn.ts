import type { Connection } from './connection'

/** Whether a table has a column: a plant of an earlier release may not have it yet. */
export async function hasColumn(connection: Connection, table: string, column: string): Promise<boolean> {
  const has = {
    sqlite: 'SELECT 1 FROM pragma_table_info(?) WHERE name = ?',
    postgres: 'SELECT 1 FROM information_schema.columns WHERE table_schema = current_schema() AND table_name = ? AND column_name = ?',
  }
  return (await connection.rows(has[connection.kind], [table, column])).length > 0
}
