import { EntityNotFoundError, type EntityManager, type EntitySchema } from 'typeorm'
import type { Connection, Value } from './connection'
import { countOf, rowOf, selectOf, shapeOf, updateOf } from './statements'
import { insertBatch } from './insertBatch'

const reading = ['find', 'findBy', 'findOne', 'findOneBy', 'findOneOrFail', 'findOneByOrFail', 'countBy', 'existsBy'] as const
const writing = ['insert', 'update', 'delete'] as const

/** Everything that can be asked of the database: entities, and SQL whose rows come under camelCase names. */
export interface Reader extends Pick<EntityManager, (typeof reading)[number]> {
  query(sql: string, values?: readonly unknown[]): Promise<unknown[]>
  /** The zone of the plant: a day is the plant's, and never that of the process. */
  readonly timeZone: string
}

/** The same, and what changes it. Only a unit of work has one. */
export interface Store extends Reader, Pick<EntityManager, (typeof writing)[number]> {}

/** The mapper, and the connection that statements go over. */
export interface Now {
  readonly manager: EntityManager
  readonly connection: Pick<Connection, 'query' | 'rows'>
}
/** What the mapper says of rows that were put in or changed. */
export const nothing = { identifiers: [], generatedMaps: [], raw: [] }

/**
 * The questions that are asked the most, in the mapper's words and by its entities, without the statement being built anew each time: rows
 * whose columns equal values, rows put in and changed. Null where a question is more than that, and the mapper's.
 */
function askPrepared({ manager, connection }: Now, name: string, [entity, where, row]: readonly unknown[]): Promise<unknown> | null {
  const schema = entity as EntitySchema
  if (name === 'insert') {
    const made = rowOf(shapeOf(manager, schema), where)
    return made && insertBatch(connection, made.into, [made.values]).then(() => nothing)
  }
  if (name === 'update') {
    const statement = updateOf(manager, schema, where, row)
    return statement && connection.query(statement.sql, statement.values).then(() => nothing)
  }
  if (name === 'countBy' || name === 'existsBy') {
    const counted = countOf(manager, schema, where)
    return (
      counted &&
      connection.query(counted.sql, counted.values).then((rows) => {
        const { n } = (rows as { n: number }[])[0] ?? { n: 0 }
        return name === 'existsBy' ? n > 0 : n
      })
    )
  }
  if (name !== 'findBy' && name !== 'findOneBy' && name !== 'findOneByOrFail') return null
  const isOne = name !== 'findBy'
  const statement = selectOf(manager, schema, where, isOne)
  if (statement === null) return null
  return connection.query(statement.sql, statement.values).then((rows) => {
    const found = (rows as Record<string, Value>[]).map(statement.entityOf)
    if (!isOne) return found
    if (name === 'findOneByOrFail' && found.length === 0) throw new EntityNotFoundError(schema, where)
    return found[0] ?? null
  })
}

/**
 * @param current the manager and its connection as they are now: a lost connection is made anew
 * @param timeZone that of the plant
 */
export function storeOf(current: () => Now, timeZone: string): Store {
  const methods = [...reading, ...writing].map((name) => [
    name,
    (...given: unknown[]) => {
      const now = current()
      return askPrepared(now, name, given) ?? (now.manager[name] as (...given: unknown[]) => unknown).apply(now.manager, given)
    },
  ])
  return {
    ...Object.fromEntries(methods),
    query: (sql: string, values?: readonly unknown[]) => current().connection.query(sql, values),
    timeZone,
  } as Store
}
