import { quantityText, stockUnitOf } from '@nemawashi/core'
import type { ListPage, ListQuery } from '@nemawashi/contract'
import Papa from 'papaparse'
import { csvOptions } from '../files/csv'
import { ServerError } from '../base/serverError'
import { rowsOf } from '../database/rowsOf'

/** A quantity is in whole steps of the column `unit` of its list; in a file it is told with decimals, in the unit without its step. */
type Kind = 'text' | 'number' | 'quantity' | 'unit' | 'flag' | 'json'

/** One column of a list: the SQL that gives it, and how it is read. */
export interface Column {
  readonly sql: string
  readonly kind?: Kind
  /** Null sorts as the smallest; without this the column can use its index for sorting. */
  readonly isNullable?: boolean
  /** A nullable day or time: what has none comes after all that have one. */
  readonly isMissingLast?: boolean
  /** What is sorted by, where that is not what is shown but goes with it. */
  readonly sortSql?: string
}

export interface ListSpec {
  readonly from: string
  readonly id: string
  /** The columns that `id` is put together from, where it is: an index knows them. */
  readonly key?: string
  readonly columns: Readonly<Record<string, Column>>
  /** SQL expressions that the search words are looked for in. */
  readonly search: readonly string[]
  /** Further conditions that find a row by a word, each with one `?` for the LIKE pattern, e.g. `t.id IN (SELECT …)`. */
  readonly searchAlso?: readonly string[]
  /**
   * In the place of both, where the rows are many: queries that give the ids of what a word is of, each with one `?`. What is found in another
   * table leads to its rows by an index; looking through every row with all that is joined to it took ten times as long.
   */
  readonly findIds?: readonly string[]
  readonly sort: readonly [string, 'asc' | 'desc']
  readonly where?: string
  /**
   * The table of the rows, with its short name, e.g. `inspection i`: enough to count and to sort by what stands in it. Filters ask it alone, and
   * what is joined to it in `from` takes no row away and adds none.
   */
  readonly countFrom?: string
}

export interface Filter {
  readonly sql: string
  readonly values: readonly (string | number)[]
}

const defaultLimit = 100
const maxCsvRows = 1_000_000

/** That a word stands in a column, or in what is put together of columns; asks for the pattern of the word. */
export const alike = (column: string) => `${column} LIKE ? ESCAPE '\\'`

/** The conditions of a list's rows: its own, the filters, and each search word in any of its columns. */
export function matching(spec: ListSpec, query: Pick<ListQuery, 'q'>, filters: readonly Filter[]): { sql: string[]; values: (string | number)[] } {
  const sql = [...(spec.where ? [spec.where] : []), ...filters.map((filter) => filter.sql)]
  const values = filters.flatMap((filter) => [...filter.values])
  for (const word of (query.q ?? '').trim().split(/\s+/).filter(Boolean)) {
    const ways = spec.findIds ?? [...spec.search.map(alike), ...(spec.searchAlso ?? [])]
    sql.push(spec.findIds ? `${spec.id} IN (${ways.join(' UNION ALL ')})` : `(${ways.join(' OR ')})`)
    const pattern = `%${word.replaceAll(/[\\%_]/g, '\\$&')}%`
    values.push(...ways.map(() => pattern))
  }
  return { sql, values }
}

function readKey(after: string): [string | number, string | number] {
  try {
    const key = JSON.parse(Buffer.from(after, 'base64url').toString('utf8')) as unknown
    if (Array.isArray(key) && key.length === 2 && key.every((part) => typeof part === 'string' || typeof part === 'number'))
      return key as [string | number, string | number]
  } catch {
    // falls through to the refusal
  }
  throw new ServerError('input_invalid', 'The key of the next page is not one that this server gave.', { field: 'after', received: after })
}

/** Whether an expression needs no other table than its own: each short name in it is that of the table, or of a query within it. */
function needsOnly(table: string, ...expressions: readonly string[]): boolean {
  const own = table.split(' ').at(-1)
  return expressions.every((sql) => {
    const known = new Set([own, ...[...sql.matchAll(/\b(?:FROM|JOIN) "?\w+"? (\w+)/g)].map(([, name]) => name)])
    return [...sql.replaceAll(/'[^']*'/g, '').matchAll(/(?<![\w"])(\w+)\./g)].every(([, name]) => known.has(name))
  })
}

/** Where rows are counted and sorted: in their own table as long as nothing asks for another; joining a dozen takes ten times as long. */
function narrowest(spec: ListSpec, query: Pick<ListQuery, 'q'>, ...expressions: readonly string[]): string {
  const words = (query.q ?? '').trim() === '' || spec.findIds ? [] : [...spec.search, ...(spec.searchAlso ?? [])]
  return spec.countFrom !== undefined && needsOnly(spec.countFrom, ...words, ...expressions) ? spec.countFrom : spec.from
}

/** Whatever can be asked in SQL: a connection here, or the thread of long readings. */
export interface SqlReader {
  query(sql: string, values: unknown[]): Promise<unknown[]>
}

/** The column that is sorted by. @throws {ServerError} `input_invalid` where the list has no such column. */
export function sortColumn(spec: ListSpec, query: ListQuery): Column {
  const sort = query.sort ?? spec.sort[0]
  const column = Object.hasOwn(spec.columns, sort) ? spec.columns[sort] : undefined
  if (!column)
    throw new ServerError('input_invalid', `Cannot sort by "${sort}".`, { field: 'sort', received: sort, allowed: Object.keys(spec.columns) })
  return column
}

/** So many keys, each with a mark for its values. */
function keyList({ key }: ListSpec, count: number): string {
  if (key === undefined) return Array.from({ length: count }, () => '?').join(', ')
  const one = `(${key
    .split(',')
    .map(() => '?')
    .join(', ')})`
  return `VALUES ${Array.from({ length: count }, () => one).join(', ')}`
}

/** One page of a list, by key: rows after the last one seen, never by counting off. */
export async function listPage<Row>(
  reader: SqlReader,
  spec: ListSpec,
  query: ListQuery,
  filters: readonly Filter[] = [],
  isCounting = true,
): Promise<ListPage<Row>> {
  const column = sortColumn(spec, query)
  const dir = query.dir ?? (query.sort === undefined ? spec.sort[1] : 'asc')
  const limit = query.limit ?? defaultLimit
  const by = column.sortSql ?? column.sql
  // Later than any day, less than any number, before any text.
  const missing = column.isMissingLast ? '9999' : column.kind === 'number' || column.kind === 'quantity' ? -1e300 : ''
  const key = column.isNullable ? `COALESCE(${by}, ${typeof missing === 'number' ? missing : `'${missing}'`})` : by
  const { sql, values } = matching(spec, query, filters)
  const where = sql.length > 0 ? `WHERE ${sql.join(' AND ')}` : ''
  const [count] = isCounting
    ? await rowsOf(reader, { total: 'number' }, `SELECT COUNT(*) AS total FROM ${narrowest(spec, query)} ${where}`, values)
    : []
  const page = [...sql]
  const pageValues = [...values]
  if (query.after !== undefined) {
    page.push(`(${key}, ${spec.id}) ${dir === 'asc' ? '>' : '<'} (?, ?)`)
    pageValues.push(...readKey(query.after))
  }
  const selected = Object.entries(spec.columns).map(([name, { sql: expression }]) => `${expression} AS "${name}"`)
  const inOrder = `ORDER BY ${key} ${dir}, ${spec.id} ${dir}`
  // Sorted are keys and ids alone; what else a row shows, some of it counted up, is fetched for the rows of the page, by another statement: within
  // one the planner may look for the page once for each table. With each key goes what the next page begins after, whatever became of its row meanwhile.
  const rowKey = spec.key ?? spec.id
  const found = (
    await reader.query(
      `SELECT ${rowKey}, ${key} AS "sortedBy", ${spec.id} AS "rowId" FROM ${narrowest(spec, query, key)} ${page.length > 0 ? `WHERE ${page.join(' AND ')}` : ''} ${inOrder} LIMIT ?`,
      [...pageValues, limit + 1],
    )
  ).map((row) => Object.values(row as object))
  const hasMore = found.length > limit
  if (hasMore) found.pop()
  const keys = found.flatMap((row) => row.slice(0, -2))
  const rows =
    found.length === 0
      ? []
      : ((await reader.query(
          `SELECT ${selected.join(', ')} FROM ${spec.from} WHERE (${rowKey}) IN (${keyList(spec, found.length)}) ${inOrder}`,
          keys,
        )) as Record<string, unknown>[])
  const next = hasMore ? Buffer.from(JSON.stringify(found.at(-1)?.slice(-2))).toString('base64url') : null
  return { rows: readRows<Row>(spec, rows), total: count?.total ?? 0, next }
}

/** Brings rows from the database to what the contract says: flags and JSON columns are read, in place. */
function readRows<Row>(spec: ListSpec, rows: Record<string, unknown>[]): Row[] {
  const special = Object.entries(spec.columns).filter(([, { kind }]) => kind === 'flag' || kind === 'json')
  for (const row of rows) {
    for (const [name, { kind }] of special) row[name] = kind === 'flag' ? row[name] === 1 : (JSON.parse(String(row[name])) as unknown)
  }
  return rows as Row[]
}

/** All matching rows page by page, in the order of the list, until so many were given; how many there are stands in the first page. */
export async function* listPages<Row>(
  reader: SqlReader,
  spec: ListSpec,
  query: ListQuery,
  filters: readonly Filter[],
  most: number,
): AsyncGenerator<ListPage<Row>> {
  let after: string | undefined
  let given = 0
  do {
    const nextQuery = { ...query, limit: 200, ...(after === undefined ? {} : { after }) }
    const page: ListPage<Row> = await listPage(reader, spec, nextQuery, filters, given === 0)
    yield page
    given += page.rows.length
    after = page.next ?? undefined
  } while (after !== undefined && given < most)
}

/** All matching rows as CSV, in the order of the list, made page by page. */
export async function* listCsv(reader: SqlReader, spec: ListSpec, query: ListQuery, filters: readonly Filter[] = []): AsyncGenerator<string> {
  const names = Object.keys(spec.columns)
  yield `\uFEFF${Papa.unparse([names], csvOptions)}\r\n`
  const cell = (row: Record<string, unknown>, name: string) => {
    const value = row[name]
    if (spec.columns[name]?.kind === 'quantity' && typeof value === 'number') return quantityText(value, String(row['unit']))
    if (spec.columns[name]?.kind === 'unit' && typeof value === 'string') return stockUnitOf(value).symbol
    return typeof value === 'object' && value !== null ? JSON.stringify(value) : value
  }
  for await (const { rows } of listPages<Record<string, unknown>>(reader, spec, query, filters, maxCsvRows))
    if (rows.length > 0)
      yield `${Papa.unparse(
        rows.map((row) => names.map((name) => cell(row, name))),
        csvOptions,
      )}\r\n`
}
