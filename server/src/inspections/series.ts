import type { Work } from '../kernel/work/unitOfWork'
import { SeriesEntity } from './entities'

/** The series that values of a characteristic on a part at a place of measuring go on; begun with the first inspection. */
export async function seriesOf(work: Work, characteristicId: string, partId: string, operationId: string): Promise<string> {
  const key = { characteristicId, partId, operationId }
  const known = await work.manager.findOneBy(SeriesEntity, key)
  if (known) return known.id
  const id = work.newId()
  await work.manager.insert(SeriesEntity, { id, ...key })
  return id
}
