import type { Work } from './unitOfWork'

const known = new WeakMap<Work, Map<string, unknown>>()

/** Looks something up once in a change, however often it is asked for: only what the change itself leaves as it is. */
export const memoizeInWork: <T>(work: Work, key: string, look: () => Promise<T>) => Promise<T> = onceOf

/** The same of what is worked out. */
export function onceOf<T>(work: Work, key: string, make: () => T): T {
  const found = known.get(work) ?? new Map<string, unknown>()
  known.set(work, found)
  if (found.has(key)) return found.get(key) as T
  const made = make()
  found.set(key, made)
  return made
}
