import type { Work } from './unitOfWork'

const known = new WeakMap<Work, Map<string, Promise<unknown>>>()

/** Looks something up once in a change, however often it is asked for: only what the change itself leaves as it is. */
export function onceIn<T>(work: Work, key: string, look: () => Promise<T>): Promise<T> {
  const found = known.get(work) ?? new Map<string, Promise<unknown>>()
  known.set(work, found)
  const before = found.get(key)
  if (before) return before as Promise<T>
  const looking = look()
  found.set(key, looking)
  return looking
}
