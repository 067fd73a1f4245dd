import { maxSeriesValues, type LineSeries } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Reader } from '../../kernel/work/database'
import { countValues, lastValues, seriesOfLine } from './seriesRepository'

/**
 * The values that a line's own go on with, its own among them; none where nothing is measured piece by piece.
 * @throws {ServerError} `not_found`
 */
export async function lineSeries(reader: Reader, lineId: string): Promise<LineSeries> {
  const line = await seriesOfLine(reader, lineId)
  if (line === null) throw new ServerError('not_found', `There is no line of an inspection with the id ${lineId}.`)
  const { seriesId, unit } = line
  if (seriesId === null) return { values: [], total: 0 }
  const [values, total] = await Promise.all([lastValues(reader, seriesId, unit, maxSeriesValues), countValues(reader, seriesId, unit)])
  return { values: values.reverse(), total }
}
