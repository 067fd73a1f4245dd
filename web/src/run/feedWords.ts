import { placeWords, type FeedKind } from '@nemawashi/contract'

export const feedKindWords: Readonly<Record<FeedKind, string>> = {
  delivery: 'Delivery',
  order: 'Order',
  confirmation: 'Confirmation',
  dispatch: 'Dispatch',
}

const placeOf = (path: string) => placeWords(path.split('.').map((step) => (/^\d+$/.test(step) ? Number(step) : step)))

/** Where something is wrong in an event and what was received, from the facts that were kept: `line 1, part: SP-99.` */
export function wrongWords(facts: Readonly<Record<string, unknown>>): string {
  const { field, received, fields } = facts as { field?: string; received?: unknown; fields?: { field: string; problem: string }[] }
  if (fields) return `${fields.map((entry) => `${placeOf(entry.field)}: ${entry.problem}`).join('; ')}.`
  if (field === undefined) return ''
  return `${placeOf(field)}${received === undefined ? '' : `: ${String(received)}`}.`
}

/** Where what came of an event is seen. */
export function wayToSubject({ subjectKind, subjectId }: { subjectKind: string | null; subjectId: string | null }): string | null {
  if (subjectId === null) return null
  if (subjectKind === 'order') return `/run/orders/${subjectId}`
  return subjectKind === 'dispatch' ? `/run/dispatches/${subjectId}` : `/run/${subjectId}`
}
