import { isDeepStrictEqual } from 'node:util'

/** Without what is said to be nothing by leaving it undefined. */
function said(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(said)
  if (value === null || typeof value !== 'object') return value
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, inner]) => inner !== undefined)
      .map(([key, inner]) => [key, said(inner)]),
  )
}

/** Whether two values say the same, in whatever order their keys stand, and whether what they do not say is left out or undefined. */
export const sameFacts = (a: unknown, b: unknown): boolean => isDeepStrictEqual(said(a), said(b))
