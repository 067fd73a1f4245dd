import { isNonconforming, type Mark } from '@nemawashi/core'
import type { Past } from '@nemawashi/contract'
import { ServerError } from '../kernel/serverError'
import type { Reader } from '../kernel/database'
import { detailsOf } from './checkedFields'
import { CharacteristicEntity } from './entities'

interface LotRow {
  lineId: string
  id: string
  code: string
  partCode: string
  supplierName: string
  openedAt: string
  quantity: number
  sampleSize: number
  accept: number
  details: string | null
}

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
  if (!(await reader.findOneBy(CharacteristicEntity, { id: characteristicId })))
    throw new ServerError('not_found', `There is no characteristic with the id ${characteristicId}.`)
  const limit = query.limit ?? 500
  const filters = [query.partId === undefined ? '' : 'AND l.part_id = ?', query.supplierId === undefined ? '' : 'AND l.supplier_id = ?'].join(' ')
  const values = [query.partId, query.supplierId].filter((value) => value !== undefined)
  const rows = (await reader.query(
    `SELECT n.id AS line_id, l.id, l.code, t.code AS part_code, s.name AS supplier_name, i.opened_at, i.lot_size AS quantity, n.sample_size, n.accept, c.details
     FROM characteristic_revision c JOIN inspection_line n ON n.characteristic_revision_id = c.id JOIN inspection i ON i.id = n.inspection_id
     JOIN lot l ON l.id = i.lot_id JOIN part t ON t.id = l.part_id JOIN partner s ON s.id = l.supplier_id
     WHERE c.characteristic_id = ? AND i.state IN ('finished', 'decided') ${filters}
     ORDER BY i.opened_at DESC, i.id DESC LIMIT ?`,
    [characteristicId, ...values, limit + 1],
  )) as LotRow[]
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
      day: openedAt.slice(0, 10),
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
    const rows = (await reader.query(
      `SELECT r.line_id, r.value, r.mark FROM inspection_line n CROSS JOIN reading r
       WHERE r.inspection_id = n.inspection_id AND r.line_id = n.id AND n.id IN (${some.map(() => '?').join()})
         AND r.correction = (SELECT MAX(m.correction) FROM reading m WHERE m.inspection_id = r.inspection_id AND m.line_id = r.line_id AND m.piece = r.piece)
       ORDER BY r.line_id, r.piece`,
      some,
    )) as { lineId: string; value: string | null; mark: Mark }[]
    for (const { lineId, value, mark } of rows) {
      if (value === null || mark === 'notJudged') continue
      const isNumber = /^-?\d+(\.\d+)?$/.test(value)
      const of = found.get(lineId) ?? []
      of.push({ value: isNumber ? value : null, isConforming: !isNonconforming(mark, marginal.get(lineId)) })
      found.set(lineId, of)
    }
  }
  return found
}
