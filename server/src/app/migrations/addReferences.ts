import type { QueryRunner } from 'typeorm'

/** A column that points at another table, or at nothing. */
export interface Reference {
  readonly column: string
  readonly target: string
  /** What its key is called. */
  readonly key: string
}

/**
 * Adds columns to a table of a file that point at other tables. SQLite takes no named key into a table that stands, so the table is made anew from
 * its own text, filled in the order of its rows, and its indices and guards are put back. The keys of others rest meanwhile (`restingForeignKeys`).
 */
export async function addReferences(runner: QueryRunner, table: string, references: readonly Reference[]): Promise<void> {
  const parts = (await runner.query(`SELECT type, sql FROM sqlite_master WHERE tbl_name = '${table}' AND sql IS NOT NULL`)) as {
    type: string
    sql: string
  }[]
  const standing = parts.find(({ type }) => type === 'table')?.sql ?? ''
  const first = standing.indexOf('CONSTRAINT')
  if (first < 0) throw new Error(`The table ${table} has no constraints that a column could be put before.`)
  const body = standing.slice(standing.indexOf('('), standing.lastIndexOf(')'))
  const at = first - standing.indexOf('(')
  const added = references.map(({ column }) => `"${column}" text, `).join('')
  const keys = references.map(({ column, target, key }) => `, CONSTRAINT "${key}" FOREIGN KEY ("${column}") REFERENCES "${target}" ("id")`).join('')
  const columns = ((await runner.query(`PRAGMA table_info("${table}")`)) as { name: string }[]).map(({ name }) => `"${name}"`).join(', ')
  await runner.query(`CREATE TABLE "${table}_new" ${body.slice(0, at)}${added}${body.slice(at)}${keys})`)
  await runner.query(`INSERT INTO "${table}_new" (${columns}) SELECT ${columns} FROM "${table}" ORDER BY rowid`)
  await runner.query(`DROP TABLE "${table}"`)
  await runner.query('PRAGMA legacy_alter_table = ON')
  await runner.query(`ALTER TABLE "${table}_new" RENAME TO "${table}"`)
  await runner.query('PRAGMA legacy_alter_table = OFF')
  for (const { sql } of parts.filter(({ type }) => type !== 'table')) await runner.query(sql)
}
