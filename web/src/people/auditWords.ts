import { plantClock, plantDay } from '../shell/plantTime'

/** Where a thing of the audit chain is looked at; null where it has no page. */
export function pageOf(subject: string, id: string): string | null {
  const pages: Readonly<Record<string, string>> = {
    person: '/people/',
    lot: '/trace/',
    inspection: '/record/',
    delivery: '/run/',
    'expected delivery': '/run/expected/',
    'purchase order': '/run/purchase-orders/',
    plan: '/define/plans/',
    characteristic: '/define/characteristics/',
    part: '/define/parts/',
    partner: '/define/partners/',
    place: '/define/places/',
    operation: '/define/operations/',
    family: '/define/families/',
    'answer list': '/define/answer-lists/',
    'fault code': '/define/fault-codes/',
    reason: '/define/reasons/',
    class: '/define/classes/',
    'finer standing': '/define/finer-standings/',
    'unit of count': '/define/count-units/',
    'unit of measure': '/define/measure-units/',
  }
  return pages[subject] && id !== '' ? `${pages[subject]}${id}` : null
}

export interface Difference {
  readonly field: string
  readonly before: string
  readonly after: string
}

function shown(value: unknown): string {
  if (value === null || value === undefined || value === '') return '–'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  // A moment is told in the plant's time, as everywhere.
  if (typeof value === 'string' && /^\d{4}-\d\d-\d\dT[\d:.]+Z$/.test(value)) return `${plantDay(value)} ${plantClock(value)}`
  return typeof value === 'object' ? JSON.stringify(value, null, 1) : String(value)
}

/** `holdPlaceId` → `hold place`. */
function fieldWords(name: string): string {
  return name.replace(/Id$/, '').replaceAll(/(?<=[a-z])([A-Z])/g, (letter) => ` ${letter.toLowerCase()}`)
}

/** What a change made different, field by field; of something new its fields stand alone. */
export function differences(before: string | null, after: string | null): Difference[] {
  const was = (before === null ? {} : JSON.parse(before)) as Record<string, unknown>
  const is = (after === null ? {} : JSON.parse(after)) as Record<string, unknown>
  return [...new Set([...Object.keys(was), ...Object.keys(is)])].map((name) => ({
    field: fieldWords(name),
    before: before === null ? '' : shown(was[name]),
    after: shown(is[name]),
  }))
}
