import { FindOperator, type EntityManager, type EntitySchema } from 'typeorm'
import type { Value } from './connection'

interface Column {
  readonly property: string
  /** As it stands in a statement. */
  readonly name: string
  readonly kind: 'flag' | 'json' | 'plain'
}
export interface Shape {
  /** The table, as it is called, and as it stands in a statement. */
  readonly name: string
  readonly table: string
  /** Other tables that its rows point at. */
  readonly parents: readonly string[]
  readonly columns: readonly Column[]
  readonly byProperty: ReadonlyMap<string, Column>
  readonly isServer: boolean
  /** The columns of the row that was put in last, and the words for them. */
  last: { readonly columns: readonly Column[]; readonly into: string } | null
}
/** A statement and its values. */
export interface Statement {
  readonly sql: string
  readonly values: readonly unknown[]
}

const shapes = new WeakMap<EntityManager, WeakMap<object, Shape>>()

/** What the mapper knows of an entity, kept for the next time. */
export function shapeOf(manager: EntityManager, entity: EntitySchema): Shape {
  const known = shapes.get(manager) ?? new WeakMap<object, Shape>()
  shapes.set(manager, known)
  const found = known.get(entity)
  if (found) return found
  const { tableName, columns, foreignKeys } = manager.dataSource.getMetadata(entity)
  const all = columns.map(({ propertyName, databaseName, type }): Column => {
    const kind = type === 'boolean' ? 'flag' : type === 'simple-json' ? 'json' : 'plain'
    return { property: propertyName, name: `"${databaseName}"`, kind }
  })
  const isServer = manager.dataSource.options.type === 'postgres'
  const made = {
    name: tableName,
    table: `"${tableName}"`,
    parents: [...new Set(foreignKeys.map(({ referencedTablePath }) => referencedTablePath))].filter((name) => name !== tableName),
    columns: all,
    byProperty: new Map(all.map((column) => [column.property, column])),
    isServer,
    last: null,
  }
  known.set(entity, made)
  return made
}

function stored({ kind }: Column, value: unknown, { isServer }: Shape): unknown {
  if (value === null) return null
  if (kind === 'json') return JSON.stringify(value)
  return kind === 'flag' && !isServer ? (value === true ? 1 : 0) : value
}

function read({ kind }: Column, value: Value): unknown {
  if (value === null) return null
  if (kind === 'json') return JSON.parse(value as string)
  return kind === 'flag' ? value === 1 : value
}

type Equal = string | number | boolean | readonly string[] | null
/** Columns, and the value that each has to equal, or one of several; null where it has to hold none. */
export type Equals = readonly (readonly [property: string, value: Equal])[]

const areTexts = (values: unknown): values is readonly string[] => Array.isArray(values) && values.every((value) => typeof value === 'string')

/** What a condition asks, where it is no more than that columns equal values, one of some texts, or hold none: what is more is the mapper's. */
export function equalsOf(where: unknown): Equals | null {
  if (typeof where !== 'object' || where === null || Array.isArray(where)) return null
  const all: [string, Equal][] = []
  for (const [property, value] of Object.entries(where)) {
    if (value instanceof FindOperator) {
      const given: unknown = value.value
      if (value.type === 'isNull') all.push([property, null])
      else if (value.type === 'in' && areTexts(given)) all.push([property, given])
      else return null
    } else if (typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean') all.push([property, value])
    else return null
  }
  return all
}

function conditionOf(shape: Shape, where: unknown): Statement | null {
  const equals = equalsOf(where)
  if (equals === null) return null
  const parts: string[] = []
  const values: unknown[] = []
  for (const [property, value] of equals) {
    const column = shape.byProperty.get(property)
    if (column === undefined || column.kind === 'json') return null
    parts.push(`${column.name} ${value === null ? 'IS NULL' : areTexts(value) ? 'IN (SELECT value FROM json_each(?))' : '= ?'}`)
    if (value !== null) values.push(areTexts(value) ? JSON.stringify(value) : stored(column, value, shape))
  }
  return { sql: parts.length === 0 ? '' : ` WHERE ${parts.join(' AND ')}`, values }
}

/** The columns that a row gives something for, and what it gives; null where a value is for the mapper to work out. */
function given(shape: Shape, row: unknown): { columns: Column[]; values: unknown[] } | null {
  if (typeof row !== 'object' || row === null || Array.isArray(row)) return null
  const columns: Column[] = []
  const values: unknown[] = []
  const cells = row as Record<string, unknown>
  for (const property in cells) {
    const value = cells[property]
    if (value === undefined) continue
    const column = shape.byProperty.get(property)
    if (column === undefined || typeof value === 'function') return null
    columns.push(column)
    values.push(stored(column, value, shape))
  }
  return columns.length === 0 ? null : { columns, values }
}

/** A row to put in: the table with the columns that it gives something for, and what it gives; null where a value is for the mapper to work out. */
export function rowOf(shape: Shape, row: unknown): { readonly into: string; readonly values: readonly unknown[] } | null {
  const cells = given(shape, row)
  if (cells === null) return null
  const { columns, values } = cells
  // Rows of a table that come one after another mostly have the same columns.
  if (shape.last === null || shape.last.columns.length !== columns.length || columns.some((column, i) => shape.last?.columns[i] !== column))
    shape.last = { columns, into: `${shape.table} (${columns.map(({ name }) => name).join(', ')})` }
  return { into: shape.last.into, values }
}

export function updateOf(manager: EntityManager, entity: EntitySchema, where: unknown, row: unknown): Statement | null {
  const shape = shapeOf(manager, entity)
  const cells = given(shape, row)
  const condition = conditionOf(shape, where)
  if (cells === null || condition === null || condition.sql === '') return null
  const sets = cells.columns.map(({ name }) => `${name} = ?`).join(', ')
  return { sql: `UPDATE ${shape.table} SET ${sets}${condition.sql}`, values: [...cells.values, ...condition.values] }
}

export interface SelectStatement extends Statement {
  /** A row of the answer, whose columns come under the properties' names, as the entity has it. */
  readonly entityOf: (row: Record<string, Value>) => object
}

export function selectOf(manager: EntityManager, entity: EntitySchema, where: unknown, isOne: boolean): SelectStatement | null {
  const shape = shapeOf(manager, entity)
  const condition = conditionOf(shape, where)
  if (condition === null) return null
  const names = shape.columns.map(({ name }) => name).join(', ')
  return {
    sql: `SELECT ${names} FROM ${shape.table}${condition.sql}${isOne ? ' LIMIT 1' : ''}`,
    values: condition.values,
    entityOf: (row) => {
      const entity: Record<string, unknown> = {}
      for (const column of shape.columns) entity[column.property] = read(column, row[column.property] ?? null)
      return entity
    },
  }
}

export function countOf(manager: EntityManager, entity: EntitySchema, where: unknown): Statement | null {
  const shape = shapeOf(manager, entity)
  const condition = conditionOf(shape, where)
  return condition && { sql: `SELECT COUNT(*) AS n FROM ${shape.table}${condition.sql}`, values: condition.values }
}
