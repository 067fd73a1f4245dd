import { createHash, hash } from 'node:crypto'
import type { Cells, RawRow, Value } from '../database/connection'

/** Columns that are no part of a row: what was selected beside it, and the order in which PostgreSQL was given it. */
const beside = new Set(['key ', 'digest ', 'rowid'])

/** Where the columns of an answer stand in the order of their names, each with its name as JSON. */
interface Order {
  readonly at: readonly number[]
  readonly names: readonly string[]
}
const orders = new WeakMap<readonly string[], Order>()

function orderOf(names: readonly string[]): Order {
  const known = orders.get(names)
  if (known) return known
  const at = [...names.keys()].filter((i) => !beside.has(names[i] as string)).sort((a, b) => ((names[a] as string) < (names[b] as string) ? -1 : 1))
  const made = { at, names: at.map((i) => JSON.stringify(names[i])) }
  orders.set(names, made)
  return made
}

function textOf({ at, names }: Order, row: readonly Value[]): string {
  let text = ''
  for (let i = 0; i < at.length; i++) {
    const value = row[at[i] as number] as Value
    if (value !== null) text += `${text === '' ? '' : ','}[${names[i]},${JSON.stringify(readable(value))}]`
  }
  return `[${text}]`
}

/**
 * Digits of rows: of their filled columns in the order of their names, so that a column which a later release adds empty changes nothing.
 * Shape: rows under their names → 22 characters, 132 bits of SHA-256 in base64url.
 */
export function cellsDigest(names: readonly string[], rows: Cells['rows']): string {
  const order = orderOf(names)
  let text = ''
  for (const row of rows) text += textOf(order, row)
  return hash('sha256', text, 'base64url').slice(0, 22)
}

/** The same of rows that are objects. */
export function rowDigest(rows: readonly RawRow[]): string {
  return hash('sha256', rows.map((row) => textOf(orderOf(Object.keys(row)), Object.values(row))).join(''), 'base64url').slice(0, 22)
}

function readable(value: Value): unknown {
  if (Buffer.isBuffer(value)) return `sha256 ${createHash('sha256').update(value).digest('hex')}`
  return typeof value === 'bigint' ? String(value) : value
}
