import { DefaultNamingStrategy } from 'typeorm'

export type Value = string | number | bigint | null | Buffer
/** A row under the names that its columns have in the database. */
export type RawRow = Record<string, Value>

/** An answer as it comes: its columns' names, and its rows in their order. */
export interface Cells {
  readonly names: readonly string[]
  readonly rows: readonly (readonly Value[])[]
}

/**
 * One connection, whichever database is behind it. SQL is written once, in what SQLite and PostgreSQL have in common: `?` for a value,
 * snake_case for names; what only one of them has, the other one is given by functions (`postgresFunctions.ts`). Flags come as 0 and 1.
 */
export interface Connection {
  readonly kind: 'sqlite' | 'postgres'
  /** Rows under the columns' own names, as they are sealed. */
  rows(sql: string, values?: readonly unknown[]): Promise<RawRow[]>
  /** The same without an object for each row. */
  cells(sql: string, values?: readonly unknown[]): Promise<Cells>
  /** Rows under camelCase names, as the code speaks of them. */
  query(sql: string, values?: readonly unknown[]): Promise<unknown[]>
  /** Rows one after another, of results that are too large to hold. */
  each(sql: string, values?: readonly unknown[]): AsyncIterable<RawRow>
  /** Statements that give nothing, several at once. */
  run(sql: string): Promise<void>
  /** Whether a transaction is open; asked of the database, which may have ended one by itself. */
  isOpen(): boolean
  close(): Promise<void>
}

/** What a change needs in addition: the right to write, which one has at a time. */
export interface WritingConnection extends Connection {
  /**
   * Begins a transaction as the only one that writes, after waiting for its turn.
   * @throws {ServerError} `storage_busy` when somebody else writes for too long.
   */
  begin(): Promise<void>
  /** @throws when anything of the transaction was not stored. */
  commit(): Promise<void>
}

/** The type of a text that is compared with those of the plant's tables. */
export const textOf = ({ kind }: Connection): string => (kind === 'postgres' ? 'text COLLATE "C"' : 'text')

const cache = new Map<string, string>()

/** `lot_size` → `lotSize`; a name without an underscore stays as it is. */
export function camelName(name: string): string {
  const known = cache.get(name)
  if (known !== undefined) return known
  const made = name.replaceAll(/(?<=.)_([a-z0-9])/g, (_, letter: string) => letter.toUpperCase())
  if (cache.size < 2000) cache.set(name, made)
  return made
}

/** `lotSize` → `lot_size`. */
export function snakeName(name: string): string {
  return name.replaceAll(/(?<=[a-z0-9])[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)
}

/** How entities' properties are called in the database. Keys and indexes keep the names that were made of the properties' own. */
export class SnakeNames extends DefaultNamingStrategy {
  override columnName(propertyName: string, customName: string | undefined): string {
    return customName ?? snakeName(propertyName)
  }
  override primaryKeyName(table: string, columns: string[]): string {
    return super.primaryKeyName(table, columns.map(camelName))
  }
  override uniqueConstraintName(table: string, columns: string[]): string {
    return super.uniqueConstraintName(table, columns.map(camelName))
  }
  override foreignKeyName(table: string, columns: string[]): string {
    return super.foreignKeyName(table, columns.map(camelName))
  }
}
