import type { Place } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import { memoizeInWork } from '../../kernel/work/memoizeInWork'
import type { Work } from '../../kernel/work/unitOfWork'
import { placeRows } from '../../define/masters/rows'

/** The first place of a purpose, by code; null where there is none. */
export async function placeOf(reader: Reader, purpose: Place['purpose']): Promise<Place | null> {
  const [place] = await placeRows.list(reader, { purpose }, { order: { code: 'ASC' }, take: 1 })
  return place ?? null
}

/** Where what was sent is: the customers' place; in a plant without one, outside. @throws {ServerError} `place_missing`. */
export async function placeOfCustomers(reader: Reader): Promise<Place> {
  return (await placeOf(reader, 'customer')) ?? placeFor(reader, 'outside')
}

/** The first place of a purpose, by code. @throws {ServerError} `place_missing`. */
export async function placeFor(reader: Reader, purpose: Place['purpose']): Promise<Place> {
  const place = await placeOf(reader, purpose)
  if (!place) throw new ServerError('place_missing', `There is no place with the purpose "${purpose}".`, { purpose })
  return place
}

/** The same for all that a change sends there, looked up once. @throws {ServerError} `place_missing`. */
export function placeIdFor(work: Work, purpose: Place['purpose']): Promise<string> {
  return memoizeInWork(work, `first place for ${purpose}`, async () => (await placeFor(work.manager, purpose)).id)
}
