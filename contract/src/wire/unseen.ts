/** Control characters but tab and line ends; what turns the direction of writing; half of a pair. None is seen, and each can make a name look like another. */
const unseen =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/

export interface Unseen {
  /** Where it stands: names of fields and numbers of rows. */
  readonly path: (string | number)[]
  /** Its number in Unicode, as U+0000. */
  readonly character: string
}

/** What is longer is a file, in letters of its own. */
const longestText = 20_000

/** Whether there is any: asked of everything that comes in, and so without keeping the way to it. */
function hasUnseen(value: unknown): boolean {
  if (typeof value === 'string') return value.length <= longestText && unseen.test(value)
  if (typeof value !== 'object' || value === null) return false
  if (Array.isArray(value)) return value.some(hasUnseen)
  for (const key in value) if (unseen.test(key) || hasUnseen((value as Record<string, unknown>)[key])) return true
  return false
}

/** The first character that nobody sees in any text of something that was received; null where there is none. Names of fields are looked at, too. */
export function unseenIn(value: unknown): Unseen | null {
  return hasUnseen(value) ? firstIn(value, []) : null
}

function firstIn(value: unknown, path: readonly (string | number)[]): Unseen | null {
  if (typeof value === 'string') {
    if (value.length > longestText) return null
    const found = unseen.exec(value)?.[0]
    return found === undefined ? null : { path: [...path], character: `U+${found.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}` }
  }
  if (typeof value !== 'object' || value === null) return null
  for (const [key, part] of Object.entries(value)) {
    const at = [...path, Array.isArray(value) ? Number(key) : key]
    const found = firstIn(part, at) ?? (Array.isArray(value) ? null : firstIn(key, at))
    if (found !== null) return found
  }
  return null
}

export const unseenWords = ({ character }: Unseen): string =>
  `the character ${character} is not seen by anybody; type the text again instead of copying it`
