import { setImmediate } from 'node:timers/promises'

/** What so many take is a few milliseconds. */
const itemsATurn = 500

/** Makes something of each of many, in order, and lets others have their turn in between. */
export async function inTurns<T, R>(items: readonly T[], each: (item: T) => R): Promise<R[]> {
  const made: R[] = []
  for (const [i, item] of items.entries()) {
    if (i > 0 && i % itemsATurn === 0) await setImmediate()
    made.push(each(item))
  }
  return made
}
