import type { EntitySchema } from 'typeorm'
import { equalsOf, rowOf, shapeOf, type Equals } from './statements'
import { nothing, type Now, type Store } from './store'
import { insertBatch } from './insertBatch'

/** Rows of one table that a change has put in, and the database does not have yet. */
interface Waiting {
  /** Tables whose rows have to be there before. */
  readonly parents: readonly string[]
  readonly isOneByOne: boolean
  readonly rows: { readonly into: string; readonly values: readonly unknown[]; readonly row: Readonly<Record<string, unknown>> }[]
}

/** So many rows of a table wait at most. */
const maxWaiting = 256
/** Tables that triggers keep, and what they keep them from. */
const keptFrom: Readonly<Record<string, string>> = { balance: 'movement', characteristic_text: 'characteristic_revision' }
/** Tables that the guard of another one reads: their rows are there before its own. */
const readByGuards: Readonly<Record<string, readonly string[]>> = { movement: ['delivery_correction'] }
/** On a server, the guard before a row does not see what rows before it in the same statement have led to. */
const guardedByRows = new Set(['movement'])

const words = new Map<string, readonly string[]>()
function wordsOf(sql: string): readonly string[] {
  const known = words.get(sql)
  if (known) return known
  const made = [...new Set(sql.match(/\w+/g))].map((word) => keptFrom[word] ?? word)
  if (words.size >= 500) words.clear()
  words.set(sql, made)
  return made
}

/** A value that a row leaves out is the database's to give. */
const couldBe = (value: unknown, wanted: Equals[number][1]) =>
  value === undefined || (typeof wanted === 'object' && wanted !== null ? wanted.includes(value as string) : value === wanted)

/** A store whose rows are written together; `written` leaves none of them waiting. */
export interface WriteBehindStore extends Store {
  written(): Promise<void>
}

/**
 * The store of one change. Rows that it puts in wait until it asks for something that they could be part of, changes or deletes anything, or
 * ends; then those of a table go in together, after the rows that they point at. What the database refuses of them comes up there, and
 * nothing is asked or written after it.
 */
export function writeBehind(store: Store, now: () => Now): WriteBehindStore {
  const waiting = new Map<string, Waiting>()
  let writing: Promise<void> | null = null
  let failure: { readonly error: unknown } | null = null

  async function writeTable(name: string): Promise<void> {
    const table = waiting.get(name)
    if (!table) return
    waiting.delete(name)
    for (const parent of [...table.parents, ...(readByGuards[name] ?? [])]) await writeTable(parent)
    const { connection } = now()
    const { rows, isOneByOne } = table
    for (let from = 0, to = 0; from < rows.length; from = to) {
      const into = rows[from]?.into ?? ''
      do to++
      while (!isOneByOne && rows[to]?.into === into)
      await insertBatch(
        connection,
        into,
        rows.slice(from, to).map(({ values }) => values),
      )
    }
  }

  async function writeAfter(before: Promise<void> | null, names: readonly string[]): Promise<void> {
    await before
    try {
      for (const name of names) await writeTable(name)
    } catch (error) {
      failure ??= { error }
      throw error
    }
  }

  /** Null where there is nothing to wait for. */
  function write(names: readonly string[]): Promise<void> | null {
    if (failure) return Promise.reject(failure.error as Error)
    const due = names.filter((name) => waiting.has(name))
    if (due.length === 0) return writing
    const mine = writeAfter(writing, due).finally(() => {
      if (writing === mine) writing = null
    })
    writing = mine
    return mine
  }
  const writeAll = () => write([...waiting.keys()])

  /** Rows that wait, and that a question for rows whose columns equal values is not about, may go on waiting. */
  function beforeAsking(entity: EntitySchema, equals: Equals | null): Promise<void> | null {
    const name = shapeOf(now().manager, entity).name
    const table = waiting.get(name)
    const isAbout = table && (equals === null || table.rows.some(({ row }) => equals.every(([property, value]) => couldBe(row[property], value))))
    return write(isAbout ? [name] : [])
  }

  function insert(entity: EntitySchema, row: object): Promise<unknown> {
    const shape = shapeOf(now().manager, entity)
    const made = rowOf(shape, row)
    if (made === null) return (writeAll() ?? Promise.resolve()).then(() => store.insert(entity, row))
    const { name, parents, isServer } = shape
    const table = waiting.get(name) ?? { parents, isOneByOne: isServer && guardedByRows.has(name), rows: [] }
    waiting.set(name, table)
    table.rows.push({ ...made, row: row as Record<string, unknown> })
    const due = failure !== null || table.rows.length >= maxWaiting ? write([name]) : null
    return due === null ? Promise.resolve(nothing) : due.then(() => nothing)
  }

  type Given = readonly [never, never, never]
  const after =
    (name: keyof Store, ready: (...given: Given) => Promise<void> | null) =>
    (...given: Given): Promise<unknown> => {
      const ask = () => (store[name] as (...values: Given) => Promise<unknown>)(...given)
      const due = ready(...given)
      return due === null ? ask() : due.then(ask)
    }
  const plain = ['findBy', 'findOneBy', 'findOneByOrFail', 'countBy', 'existsBy'] as const
  const more = ['find', 'findOne', 'findOneOrFail'] as const
  return {
    ...Object.fromEntries(plain.map((name) => [name, after(name, (entity, where) => beforeAsking(entity, equalsOf(where)))])),
    ...Object.fromEntries(more.map((name) => [name, after(name, (entity) => beforeAsking(entity, null))])),
    ...Object.fromEntries((['update', 'delete'] as const).map((name) => [name, after(name, writeAll)])),
    query: after('query', (sql: string) => (/^\s*SELECT\b/i.test(sql) ? write(wordsOf(sql)) : writeAll())),
    insert,
    timeZone: store.timeZone,
    written: () => writeAll() ?? Promise.resolve(),
  } as unknown as WriteBehindStore
}
