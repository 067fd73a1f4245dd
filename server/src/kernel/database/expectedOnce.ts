import type { Schema } from './database'

const made = new WeakMap<Schema, Map<string, Promise<ReadonlyMap<string, string>>>>()

/**
 * The schema that migrations make is the same whenever they make it, and is asked for each time that a plant is read whole: it is made
 * once in a process. What failed is made anew.
 * @param of what it is made of beside the code: the migrations, and the server that runs them
 */
export function expectedOnce(
  schema: Schema,
  tables: readonly string[],
  make: () => Promise<ReadonlyMap<string, string>>,
): Promise<ReadonlyMap<string, string>> {
  const known = made.get(schema) ?? new Map<string, Promise<ReadonlyMap<string, string>>>()
  made.set(schema, known)
  const key = tables.join(' ')
  const making = known.get(key) ?? make()
  known.set(key, making)
  making.catch(() => known.delete(key))
  return making
}
