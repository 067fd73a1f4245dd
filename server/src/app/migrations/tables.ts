/** A column of a table: what it is called, what it holds, whether it may be empty, and what it points at. */
export interface Column {
  readonly name: string
  readonly type: 'text' | 'integer' | 'boolean'
  readonly isNullable: boolean
  readonly key: { readonly name: string; readonly table: string } | null
}
export interface Table {
  readonly name: string
  readonly primary: string
  readonly columns: readonly Column[]
  readonly uniques: Readonly<Record<string, readonly string[]>>
  readonly indices: Readonly<Record<string, readonly string[]>>
  /** What every row has to meet, by name. */
  readonly checks?: Readonly<Record<string, string>>
}

export const column = (name: string, type: Column['type'] = 'text', isNullable = false): Column => ({ name, type, isNullable, key: null })
export const key = (name: string, table: string, constraint: string, isNullable = false): Column => ({
  ...column(name, 'text', isNullable),
  key: { name: `FK_${constraint}`, table },
})
export const maybe = (name: string): Column => column(name, 'text', true)

const quoted = (names: readonly string[]) => names.map((name) => `"${name}"`).join(', ')

/** That a column takes none but these words; empty stays empty. */
export const oneOf = (name: string, words: readonly string[]) => `"${name}" IN (${words.map((word) => `'${word}'`).join(', ')})`

/** The statements that make the tables; on a server a text is ordered by its code points, as in a file. */
export function statementsFor(kind: 'sqlite' | 'postgres', tables: readonly Table[]): string[] {
  const isFile = kind === 'sqlite'
  const typeOf = (type: Column['type']) => (type === 'text' && !isFile ? 'text COLLATE "C"' : type)
  const keysOf = ({ columns }: Table) => columns.flatMap(({ name, key: of }) => (of ? [{ column: name, ...of }] : []))
  const keySql = (of: { column: string; name: string; table: string }) =>
    `CONSTRAINT "${of.name}" FOREIGN KEY ("${of.column}") REFERENCES "${of.table}" ("id")`
  const made = tables.flatMap((table) => {
    const { name, primary, columns, uniques, indices, checks = {} } = table
    const lines = [
      ...columns.map((of) => `"${of.name}" ${typeOf(of.type)}${isFile && of.name === 'id' ? ' PRIMARY KEY' : ''}${of.isNullable ? '' : ' NOT NULL'}`),
      ...Object.entries(uniques).map(([unique, of]) => `CONSTRAINT "${unique}" UNIQUE (${quoted(of)})`),
      ...Object.entries(checks).map(([check, met]) => `CONSTRAINT "${check}" CHECK (${met})`),
      ...(isFile ? keysOf(table).map(keySql) : [`CONSTRAINT "${primary}" PRIMARY KEY ("id")`]),
    ]
    return [
      `CREATE TABLE "${name}" (${lines.join(', ')})`,
      ...Object.entries(indices).map(([index, of]) => `CREATE INDEX "${index}" ON "${name}" (${quoted(of)})`),
    ]
  })
  const keys = isFile ? [] : tables.flatMap((table) => keysOf(table).map((of) => `ALTER TABLE "${table.name}" ADD ${keySql(of)}`))
  return [...made, ...keys]
}

/** The guards of a table that is only added to: rows are neither changed, deleted nor put in anew under a key that is taken. */
export function appendOnlyGuards(kind: 'sqlite' | 'postgres', table: string): string[] {
  const words = `${table} is append-only`
  const refusing = (change: string, each: string) =>
    kind === 'sqlite'
      ? `CREATE TRIGGER "${table}_no_${change.toLowerCase()}" BEFORE ${change} ON "${table}" BEGIN SELECT RAISE(ABORT, '${words}'); END`
      : `CREATE TRIGGER ${table}_no_${change.toLowerCase()} BEFORE ${change} ON ${table} ${each}EXECUTE FUNCTION refuse('${words}')`
  const rows = ['UPDATE', 'DELETE'].map((change) => refusing(change, 'FOR EACH ROW '))
  if (kind === 'postgres') return [...rows, refusing('TRUNCATE', '')]
  return [
    ...rows,
    `CREATE TRIGGER "${table}_no_replace" BEFORE INSERT ON "${table}" WHEN EXISTS (SELECT 1 FROM "${table}" WHERE "id" = NEW."id")
      BEGIN SELECT RAISE(ABORT, '${words}: the key is taken'); END`,
  ]
}
