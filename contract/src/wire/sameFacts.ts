const keysOf = (value: object) => Object.entries(value).filter(([, inner]) => inner !== undefined)

/**
 * Whether two values say the same, in whatever order their keys stand, and whether what they do not say is left out or undefined. Shape: what
 * goes over the wire, as text, numbers, lists and plain objects.
 */
export function sameFacts(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  if (Array.isArray(a) || Array.isArray(b))
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((inner, i) => sameFacts(inner, b[i]))
  const other = new Map(keysOf(b))
  const own = keysOf(a)
  return own.length === other.size && own.every(([key, inner]) => other.has(key) && sameFacts(inner, other.get(key)))
}
