import { FindOperator, type EntityManager, type EntitySchema } from 'typeorm'
import type { Value } from './connection'

interface Column {
  readonly property: string
  /** As it stands in a statement. */
  readonly name: string
  readonly kind: 'flag' | 'json' | 'plain'
}
interface Shape {
  readonly table: string
  readonly columns: readonly Column[]
  readonly byProperty: ReadonlyMap<string, Column>
  readonly isServer: boolean
}
/** A statement and its values. */
export interface Asked {
  readonly sql: string
  readonly values: readonly unknown[]
}

const shapes = new WeakMap<EntityManager, WeakMap<object, Shape>>()

/** What the mapper knows of an entity, kept for the next time. */
function shapeOf(manager: EntityManager, entity: EntitySchema): Shape {
  const known = shapes.get(manager) ?? new WeakMap<object, Shape>()
  shapes.set(manager, known)
  const found = known.get(entity)
  if (found) return found
  const { tableName, columns } = manager.dataSource.getMetadata(entity)
  const all = columns.map(({ propertyName, databaseName, type }): Column => {
    const kind = type === 'boolean' ? 'flag' : type === 'simple-json' ? 'json' : 'plain'
    return { property: propertyName, name: `"${databaseName}"`, kind }
  })
  const isServer = manager.dataSource.options.type === 'postgres'
  const made = { table: `"${tableName}"`, columns: all, byProperty: new Map(all.map((column) => [column.property, column])), isServer }
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

/** Whether a condition says no more than that columns equal values, or hold none: what is more is the mapper's. */
function conditionOf(shape: Shape, where: unknown): Asked | null {
  if (typeof where !== 'object' || where === null || Array.isArray(where)) return null
  const parts: string[] = []
  const values: unknown[] = []
  for (const [property, value] of Object.entries(where)) {
    const column = shape.byProperty.get(property)
    if (column === undefined || column.kind === 'json') return null
    if (value instanceof FindOperator) {
      if (value.type !== 'isNull') return null
      parts.push(`${column.name} IS NULL`)
    } else if (typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean') {
      parts.push(`${column.name} = ?`)
      values.push(stored(column, value, shape))
    } else return null
  }
  return { sql: parts.length === 0 ? '' : ` WHERE ${parts.join(' AND ')}`, values }
}

/** The columns that a row gives something for; null where a value is for the mapper to work out. */
function given(shape: Shape, row: unknown): [Column, unknown][] | null {
  if (typeof row !== 'object' || row === null || Array.isArray(row)) return null
  const all: [Column, unknown][] = []
  for (const [property, value] of Object.entries(row)) {
    if (value === undefined) continue
    const column = shape.byProperty.get(property)
    if (column === undefined || typeof value === 'function') return null
    all.push([column, stored(column, value, shape)])
  }
  return all.length === 0 ? null : all
}

export function insertOf(manager: EntityManager, entity: EntitySchema, row: unknown): Asked | null {
  const shape = shapeOf(manager, entity)
  const cells = given(shape, row)
  if (cells === null) return null
  const names = cells.map(([{ name }]) => name).join(', ')
  return { sql: `INSERT INTO ${shape.table} (${names}) VALUES (${cells.map(() => '?').join(', ')})`, values: cells.map(([, value]) => value) }
}

export function updateOf(manager: EntityManager, entity: EntitySchema, where: unknown, row: unknown): Asked | null {
  const shape = shapeOf(manager, entity)
  const cells = given(shape, row)
  const condition = conditionOf(shape, where)
  if (cells === null || condition === null || condition.sql === '') return null
  const sets = cells.map(([{ name }]) => `${name} = ?`).join(', ')
  return { sql: `UPDATE ${shape.table} SET ${sets}${condition.sql}`, values: [...cells.map(([, value]) => value), ...condition.values] }
}

export interface Selecting extends Asked {
  /** A row of the answer, whose columns come under the properties' names, as the entity has it. */
  readonly entityOf: (row: Record<string, Value>) => object
}

export function selectOf(manager: EntityManager, entity: EntitySchema, where: unknown, isOne: boolean): Selecting | null {
  const shape = shapeOf(manager, entity)
  const condition = conditionOf(shape, where)
  if (condition === null) return null
  const names = shape.columns.map(({ name }) => name).join(', ')
  return {
    sql: `SELECT ${names} FROM ${shape.table}${condition.sql}${isOne ? ' LIMIT 1' : ''}`,
    values: condition.values,
    entityOf: (row) => Object.fromEntries(shape.columns.map((column) => [column.property, read(column, row[column.property] ?? null)])),
  }
}

export function countOf(manager: EntityManager, entity: EntitySchema, where: unknown): Asked | null {
  const shape = shapeOf(manager, entity)
  const condition = conditionOf(shape, where)
  return condition && { sql: `SELECT COUNT(*) AS n FROM ${shape.table}${condition.sql}`, values: condition.values }
}
