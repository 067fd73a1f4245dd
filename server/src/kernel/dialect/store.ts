import type { EntityManager } from 'typeorm'
import type { Connection } from './connection'

const reading = ['find', 'findBy', 'findOne', 'findOneBy', 'findOneOrFail', 'findOneByOrFail', 'countBy', 'existsBy'] as const
const writing = ['insert', 'update', 'delete'] as const

/** Everything that can be asked of the database: entities, and SQL whose rows come under camelCase names. */
export interface Reader extends Pick<EntityManager, (typeof reading)[number]> {
  query(sql: string, values?: readonly unknown[]): Promise<unknown[]>
}

/** The same, and what changes it. Only a unit of work has one. */
export interface Store extends Reader, Pick<EntityManager, (typeof writing)[number]> {}

/** @param current the manager and its connection as they are now: a lost connection is made anew */
export function storeOf(current: () => { manager: EntityManager; connection: Pick<Connection, 'query'> }): Store {
  const methods = [...reading, ...writing].map((name) => [
    name,
    (...given: unknown[]) => {
      const { manager } = current()
      return (manager[name] as (...given: unknown[]) => unknown).apply(manager, given)
    },
  ])
  return { ...Object.fromEntries(methods), query: (sql: string, values?: readonly unknown[]) => current().connection.query(sql, values) } as Store
}
