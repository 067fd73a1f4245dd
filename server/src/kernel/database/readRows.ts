import type { EntitySchema, FindOptionsOrder, FindOptionsWhere, ObjectLiteral } from 'typeorm'
import type { Reader } from './store'

type Where<T> = FindOptionsWhere<T>

/**
 * What an area lets the others have of a table of its own: rows to be read. Whoever wants one changed asks the area for the act; the entity
 * itself, with which rows are written, is named where it lies and nowhere else (`.dependency-cruiser.cjs`).
 */
export interface ReadRows<T> {
  /** @throws EntityNotFoundError where none has the id: what another row points at has to be there */
  load(reader: Reader, id: string): Promise<T>
  find(reader: Reader, where: Where<T>): Promise<T | null>
  first(reader: Reader, where: Where<T>, order: FindOptionsOrder<T>): Promise<T | null>
  list(reader: Reader, where?: Where<T>, how?: { readonly order?: FindOptionsOrder<T>; readonly take?: number }): Promise<T[]>
  exists(reader: Reader, where: Where<T>): Promise<boolean>
}

export function readRows<T extends ObjectLiteral & { id: string }>(entity: EntitySchema<T>): ReadRows<T> {
  return {
    load: (reader, id) => reader.findOneByOrFail(entity, { id } as unknown as Where<T>),
    find: (reader, where) => reader.findOneBy(entity, where),
    first: (reader, where, order) => reader.findOne(entity, { where, order }),
    list: (reader, where = {}, how = {}) => (Object.keys(how).length === 0 ? reader.findBy(entity, where) : reader.find(entity, { where, ...how })),
    exists: (reader, where) => reader.existsBy(entity, where),
  }
}
