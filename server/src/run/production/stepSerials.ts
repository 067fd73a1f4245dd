import { ServerError } from '../../kernel/base/serverError'
import type { Reader } from '../../kernel/work/database'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadMovements, namedBalances, unitKindsOf } from '../../stock/ledger/repository'
import { onLine } from '../../opening/onLine'
import type { ProductionOrderRow } from './entities'
import type { Pieces } from './stepReports'

/** So many pieces of a lot: loose ones, or one with a serial number. */
export interface PiecesOf {
  readonly containerId: string | null
  readonly quantity: number
}
interface Serial {
  readonly id: string
  readonly serial: string
}

/** Serial numbers that a step can account for: at the first one those that were not made yet, at a later one those that are released. */
export async function serialsAt(reader: Reader, lotId: string, isFirst: boolean): Promise<Serial[]> {
  const all = (await unitKindsOf(reader, lotId)).flatMap(({ id, serial }) => (serial === null ? [] : [{ id, serial }]))
  if (all.length === 0) return []
  const made = new Set((await loadMovements(reader, lotId)).map(({ containerId }) => containerId))
  if (isFirst) return all.filter(({ id }) => !made.has(id))
  const free = new Set(onLine(await namedBalances(reader, lotId)).map(({ containerId }) => containerId))
  return all.filter(({ id }) => free.has(id))
}

const loose = (quantity: number): PiecesOf[] => (quantity > 0 ? [{ containerId: null, quantity }] : [])
const one = ({ id }: Serial): PiecesOf => ({ containerId: id, quantity: 1 })

/**
 * Which pieces a report means. Those that were lost are named by their serial numbers; the good ones of a first step are the next ones that
 * are left, in their order.
 * @throws {ServerError} `serials_missing` where a lost piece is not named, twice, or not among those that the step can account for.
 */
export async function piecesMeant(
  work: Work,
  { row, isFirst }: { row: ProductionOrderRow; isFirst: boolean },
  { good, scrapped, setAside, scrappedSerials = [], setAsideSerials = [] }: Pieces,
): Promise<{ made: PiecesOf[]; scrapped: PiecesOf[]; setAside: PiecesOf[] }> {
  const lotId = row.lotId ?? ''
  const hasSerials = (await unitKindsOf(work.manager, lotId)).some(({ serial }) => serial !== null)
  if (!hasSerials) return { made: loose(good + scrapped + setAside), scrapped: loose(scrapped), setAside: loose(setAside) }
  const pool = new Map((await serialsAt(work.manager, lotId, isFirst)).map((piece) => [piece.serial, piece]))
  const take = (named: readonly string[], count: number, field: string, words: string): Serial[] => {
    const taken = named.map((serial) => {
      const piece = pool.get(serial)
      pool.delete(serial)
      if (piece) return piece
      throw new ServerError('serials_missing', `${row.code}: the serial number ${serial} is not among those at this step, or stands there twice.`, {
        field,
        received: serial,
      })
    })
    if (taken.length === count) return taken
    throw new ServerError('serials_missing', `${row.code}: ${taken.length} serial numbers for ${count} pieces that were ${words}.`, {
      field,
      received: taken.length,
      quantity: count,
    })
  }
  const gone = take(scrappedSerials, scrapped, 'scrappedSerials', 'scrapped')
  const aside = take(setAsideSerials, setAside, 'setAsideSerials', 'set aside')
  const rest = [...pool.values()].slice(0, good)
  return { made: [...rest, ...gone, ...aside].map(one), scrapped: gone.map(one), setAside: aside.map(one) }
}
