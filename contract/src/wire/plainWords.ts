import { z } from 'zod'

type Issue = Parameters<NonNullable<NonNullable<Parameters<typeof z.config>[0]>['customError']>>[0]

const things: Readonly<Record<string, string>> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'yes or no',
  array: 'a list',
  object: 'fields',
  date: 'a day',
}

function sizeWords(issue: { origin: string; minimum?: number | bigint; maximum?: number | bigint }): string {
  const { origin, minimum, maximum } = issue
  const count = Number(minimum ?? maximum)
  const least = minimum === undefined ? 'at most' : 'at least'
  if (origin === 'string') return minimum === 1 || minimum === 1n ? 'fill this in' : `write ${least} ${count} characters`
  if (origin === 'array' || origin === 'set') return `give ${least} ${count}`
  return `give ${least} ${count}`
}

/**
 * Every refusal of a schema in words that a person can act on, beside the field it is about; a schema that says more itself is heard
 * first. Shape: issue → words.
 */
export function plainWords(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined || issue.input === null ? 'fill this in' : `give ${things[String(issue['expected'])] ?? 'something else'} here`
    case 'too_small':
    case 'too_big':
      return sizeWords(issue)
    case 'invalid_value': {
      const values = (issue['values'] as unknown[] | undefined) ?? []
      return values.length > 0 && values.length <= 8 ? `choose one of: ${values.join(', ')}` : 'choose one from the list'
    }
    case 'invalid_format':
      return (
        { uuid: 'choose one from the list', datetime: 'give a day and a time', date: 'give a day' }[String(issue['format'])] ??
        'write it in the form that is asked for'
      )
    case 'unrecognized_keys':
      return `nothing is known here of: ${((issue['keys'] as string[] | undefined) ?? []).join(', ')}`
    case 'not_multiple_of':
      return 'give a whole number'
    case 'invalid_union':
    case 'invalid_key':
    case 'invalid_element':
    case 'custom':
    default:
      return 'this is not understood here'
  }
}

/** A sentence begins with a capital. */
export function upperFirst(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1)
}

/** From where in a request, in words: `lines.0.quantity` → `line 1, quantity`. */
export function placeWords(path: readonly PropertyKey[]): string {
  const parts: string[] = []
  for (const step of path) {
    if (typeof step === 'number') parts.push(`${(parts.pop() ?? 'row').replace(/s$/, '')} ${step + 1}`)
    else
      parts.push(
        String(step)
          .replaceAll(/(?<=[a-z])([A-Z])/g, (letter) => ` ${letter.toLowerCase()}`)
          .replace(/ id$/, ''),
      )
  }
  return parts.join(', ')
}

z.config({ customError: plainWords })
