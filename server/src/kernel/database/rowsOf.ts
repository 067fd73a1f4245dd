import type { Value } from './connection'

/** What a column holds: text or a number, `?` where it may hold nothing; a flag is 0 or 1, and JSON is text. */
type CellKind = 'text' | 'text?' | 'number' | 'number?' | 'flag' | 'flag?' | 'any'
type KindOf<V> = [V] extends [string]
  ? 'text'
  : [V] extends [number]
    ? 'number'
    : [V] extends [string | null]
      ? 'text?'
      : [V] extends [number | null]
        ? 'number?'
        : [V] extends [boolean | number]
          ? 'flag'
          : [V] extends [boolean | number | null]
            ? 'flag?'
            : 'any'
/** The columns of a statement, by the type of its rows: the compiler holds them against the type, and what the statement gives is held against them. */
export type Columns<T> = { readonly [K in keyof T]-?: KindOf<Exclude<T[K], undefined>> }

type CellOf<K> = K extends 'text'
  ? string
  : K extends 'text?'
    ? string | null
    : K extends 'number'
      ? number
      : K extends 'number?'
        ? number | null
        : Value
/** The rows of a statement whose columns say all of them. */
export type RowOf<C> = { -readonly [K in keyof C]: CellOf<C[K]> }

interface Asked {
  query(sql: string, values?: readonly unknown[]): Promise<unknown[]>
}

let isChecking = false
/** From now on every statement is held against its columns: in tests, where it costs nobody time. */
export function checkRows(): void {
  isChecking = true
}

/** What a row of a statement is that its columns do not say; null where all fits. */
export function misfit(row: unknown, columns: Readonly<Record<string, CellKind>>): string | null {
  const found = row as Readonly<Record<string, unknown>>
  const missing = Object.keys(columns).filter((name) => !(name in found))
  if (missing.length > 0) return `it gives no ${missing.join(', ')}`
  for (const [name, value] of Object.entries(found)) {
    const kind = columns[name]
    if (kind === undefined) return `it gives ${name}, which nobody asks for`
    if (kind === 'any') continue
    if (value === null) {
      if (kind.endsWith('?')) continue
      return `${name} is empty`
    }
    if (kind.startsWith('flag') && value !== 0 && value !== 1) return `${name} is ${JSON.stringify(value)} and no flag`
    const wanted = kind.startsWith('text') ? 'string' : 'number'
    if (typeof value !== wanted) return `${name} is a ${typeof value} and no ${wanted}`
  }
  return null
}

/**
 * The rows of a statement. Its columns stand beside it: names, kinds, and whether they may be empty; they make the type of its rows, or are
 * held against one that says more.
 * @throws {Error} while rows are checked: where the statement gives others
 */
export function rowsOf<const C extends Readonly<Record<string, CellKind>>>(
  reader: Asked,
  columns: C,
  sql: string,
  values?: readonly unknown[],
): Promise<RowOf<C>[]>
export function rowsOf<T extends object>(reader: Asked, columns: Columns<T>, sql: string, values?: readonly unknown[]): Promise<T[]>
export async function rowsOf(
  reader: Asked,
  columns: Readonly<Record<string, CellKind>>,
  sql: string,
  values?: readonly unknown[],
): Promise<unknown[]> {
  const rows = await reader.query(sql, values)
  if (isChecking)
    for (const row of rows) {
      const words = misfit(row, columns)
      if (words !== null) throw new Error(`A statement has other columns than are said of it: ${words}. ${sql.replaceAll(/\s+/g, ' ').slice(0, 300)}`)
    }
  return rows
}
