import { PlaceEntity } from '../define/entities'
import type { Place } from '@nemawashi/contract'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'

/** The first place of a purpose, by code. @throws {ServerError} `place_missing`. */
export async function placeFor(work: Work, purpose: Place['purpose']): Promise<Place> {
  const place = await work.manager.findOne(PlaceEntity, { where: { purpose }, order: { code: 'ASC' } })
  if (!place) throw new ServerError('place_missing', `There is no place with the purpose "${purpose}".`, { purpose })
  return place
}
