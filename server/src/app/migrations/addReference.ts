import type { QueryRunner } from 'typeorm'

/**
 * Adds a column to a table of a file that points at another table, or at nothing. SQLite takes no named key into a table that stands, so the table
 * is made anew from its own text, filled in the order of its rows, and its indices and guards are put back. The keys of others rest meanwhile
 * (`restingForeignKeys`).
 */
export async function addReference(runner: QueryRunner, table: string, column: string, target: string, key: string): Promise<void> {
  const parts = (await runner.query(`SELECT type, sql FROM sqlite_master WHERE tbl_name = '${table}' AND sql IS NOT NULL`)) as {
    type: string
    sql: string
  }[]
  const standing = parts.find(({ type }) => type === 'table')?.sql ?? ''
  const first = standing.indexOf('CONSTRAINT')
  if (first < 0) throw new Error(`The table ${table} has no constraints that a column could be put before.`)
  const body = standing.slice(standing.indexOf('('), standing.lastIndexOf(')'))
  const at = first - standing.indexOf('(')
  const made = `${body.slice(0, at)}"${column}" text, ${body.slice(at)}, CONSTRAINT "${key}" FOREIGN KEY ("${column}") REFERENCES "${target}" ("id"))`
  const columns = ((await runner.query(`PRAGMA table_info("${table}")`)) as { name: string }[]).map(({ name }) => `"${name}"`).join(', ')
  await runner.query(`CREATE TABLE "${table}_new" ${made}`)
  await runner.query(`INSERT INTO "${table}_new" (${columns}) SELECT ${columns} FROM "${table}" ORDER BY rowid`)
  await runner.query(`DROP TABLE "${table}"`)
  await runner.query('PRAGMA legacy_alter_table = ON')
  await runner.query(`ALTER TABLE "${table}_new" RENAME TO "${table}"`)
  await runner.query('PRAGMA legacy_alter_table = OFF')
  for (const { sql } of parts.filter(({ type }) => type !== 'table')) await runner.query(sql)
}
