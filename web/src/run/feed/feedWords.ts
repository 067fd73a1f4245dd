import { errorCatalogue, placeWords, upperFirst, type ErrorCode, type FeedKind } from '@nemawashi/contract'

export const feedKindWords: Readonly<Record<FeedKind, string>> = {
  purchaseOrder: 'Purchase order',
  announcement: 'Announcement',
  delivery: 'Delivery',
  order: 'Order',
  confirmation: 'Confirmation',
  plannedDispatch: 'Planned dispatch',
  dispatch: 'Dispatch',
}

const placeOf = (path: string) => placeWords(path.split('.').map((step) => (/^\d+$/.test(step) ? Number(step) : step)))

/** What is wrong with an event, from the code and the facts that were kept: `Line 1, part: SP-99 is not known here. …` */
export function wrongWords({ code, facts }: { readonly code: ErrorCode | null; readonly facts: Readonly<Record<string, unknown>> }): string {
  const help = code === null ? '' : code === 'reference_unknown' ? unknownHelp : errorCatalogue[code].help
  return [upperFirst(placeAndReceived(code, facts)), help].filter(Boolean).join(' ')
}

const unknownHelp = 'Enter it under Define, or mend the event below, and play it again.'

function placeAndReceived(code: ErrorCode | null, facts: Readonly<Record<string, unknown>>): string {
  const { field, received, fields } = facts as { field?: string; received?: unknown; fields?: { field: string; problem: string }[] }
  if (fields) return `${fields.map((entry) => `${placeOf(entry.field)}: ${entry.problem}`).join('; ')}.`
  if (field === undefined) return ''
  const what = `${placeOf(field)}${received === undefined ? '' : `: ${String(received)}`}`
  return code === 'reference_unknown' ? `${what} is not known here.` : `${what}.`
}

/** Where what came of an event is seen. */
export function wayToSubject({ subjectKind, subjectId }: { subjectKind: string | null; subjectId: string | null }): string | null {
  if (subjectId === null) return null
  const pages: Readonly<Record<string, string>> = {
    purchaseOrder: '/run/purchase-orders/',
    expected: '/run/expected/',
    order: '/run/orders/',
    dispatch: '/run/dispatches/',
  }
  return `${pages[subjectKind ?? ''] ?? '/run/'}${subjectId}`
}
