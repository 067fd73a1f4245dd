import { recordedLots, type LotRow, answersOf } from './pastRepository'
import { isNonconforming } from '@nemawashi/core'
import type { Past } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Reader } from '../../kernel/work/database'
import { dayOf } from '../../kernel/database/plantTime'
import { detailsOf } from '../../define/library/checkedFields'
import { characteristicRows } from '../../define/library/rows'

const monthMs = (365.25 / 12) * 86_400_000

/**
 * The last recorded lots of a characteristic with the answers that stand in their cells, oldest first. Answers are those of all
 * revisions of it: a changed limit is tried on values as they were measured.
 */
export async function pastOf(
  reader: Reader,
  characteristicId: string,
  query: { partId?: string | undefined; supplierId?: string | undefined; limit?: number | undefined },
): Promise<Past> {
  if (!(await characteristicRows.find(reader, { id: characteristicId })))
    throw new ServerError('not_found', `There is no characteristic with the id ${characteristicId}.`)
  const limit = query.limit ?? 500
  const rows = await recordedLots(reader, characteristicId, query, limit + 1)
  const isCut = rows.length > limit
  const lots = rows.slice(0, limit).reverse()
  const readings = await readingsOf(reader, lots)
  const first = Date.parse(lots[0]?.openedAt ?? '')
  const last = Date.parse(lots.at(-1)?.openedAt ?? '')
  const sizes = lots.map((lot) => lot.quantity).sort((a, b) => a - b)
  return {
    lotsPerMonth: lots.length < 2 || last <= first ? null : ((lots.length - 1) * monthMs) / (last - first),
    medianLot: sizes[Math.floor(sizes.length / 2)] ?? null,
    isCut,
    lots: lots.map(({ lineId, openedAt, details: _, ...lot }) => ({
      ...lot,
      day: dayOf(reader, openedAt),
      atHours: Date.parse(openedAt) / 3_600_000,
      readings: readings.get(lineId) ?? [],
    })),
  }
}

type Readings = Past['lots'][number]['readings']

/** The answers that stand, by line and piece; a hundred lines a query. */
async function readingsOf(reader: Reader, lines: readonly Pick<LotRow, 'lineId' | 'details'>[]): Promise<Map<string, Readings>> {
  const lineIds = lines.map(({ lineId }) => lineId)
  // Whether △ counts as conforming is said by the revision that the line was made from.
  const marginal = new Map(lines.map(({ lineId, details }) => [lineId, detailsOf(details).band?.countsAsConforming ?? true]))
  const found = new Map<string, Readings>()
  for (let at = 0; at < lineIds.length; at += 100) {
    const some = lineIds.slice(at, at + 100)
    const rows = await answersOf(reader, some)
    for (const { lineId, value, mark } of rows) {
      if (value === null || mark === 'notJudged') continue
      const isNumber = /^-?\d+(\.\d+)?$/.test(value)
      const values = found.get(lineId) ?? []
      values.push({ value: isNumber ? value : null, isConforming: !isNonconforming(mark, marginal.get(lineId)) })
      found.set(lineId, values)
    }
  }
  return found
}
