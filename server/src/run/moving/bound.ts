import {
  boundTo,
  CoreError,
  eventsOf,
  mayBeTakenTo,
  restOfLot,
  standingWords,
  type BoundTo,
  type PlacePurpose,
  type Standing,
  type Sublot,
  type Taken,
} from '@nemawashi/core'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import type { LotRow } from '../../stock/ledger/entities'
import { takePieces, type PiecesToMove } from '../../stock/units/pieces'
import { putAwayReasons, requireStorable } from '../receiving/deliveries'
import { dispatchRows } from '../shipping/rows'
import { productionOrderRows } from '../production/rows'

const words: Readonly<Record<BoundTo, string>> = {
  order: 'is being made: it moves with its order until that is finished.',
  dispatch: 'is picked: it leaves with its dispatch, or goes back when that is cancelled.',
  gone: 'is in the plant no longer.',
}

/** Whether a dispatch that has not left was picked of these pieces. */
async function isPicked(work: Work, sublot: Sublot): Promise<boolean> {
  for (const id of eventsOf(sublot)) if (await dispatchRows.exists(work.manager, { id, state: 'picked' })) return true
  return false
}

/**
 * The pieces to be moved. Where fewer are there in that standing, it is said what keeps the others, where a gate does.
 * @throws {ServerError} `gate_closed`; {CoreError} `movement_exceeds_balance`.
 */
export async function takeOrSayWhy(work: Work, lot: LotRow, pieces: PiecesToMove, isToStore: boolean): Promise<Taken[]> {
  const refuse = (reasons: readonly string[]) => {
    throw new ServerError('gate_closed', `${lot.code} may not be put away: ${reasons.join('; ')}.`, { lot: lot.code, reasons })
  }
  try {
    const taken = await takePieces(work, lot.id, pieces)
    const reasons = isToStore
      ? await putAwayReasons(
          work.manager,
          lot,
          taken.map(({ spot }) => spot),
        )
      : []
    if (reasons.length > 0) refuse(reasons)
    return taken
  } catch (error) {
    if (!isToStore || !(error instanceof CoreError)) throw error
    const { containerId, sublot = restOfLot } = pieces
    const reasons = await putAwayReasons(work.manager, lot, [{ containerId, sublot }])
    if (reasons.length > 0) refuse(reasons)
    throw error
  }
}

/** Refuses a place that takes no pieces in their standing, whatever holds them. @throws {ServerError} `place_not_for`. */
export function requirePlaceFor(to: { readonly name: string; readonly purpose: PlacePurpose }, standing: Standing): void {
  if (mayBeTakenTo(to.purpose, standing, true)) return
  throw new ServerError('place_not_for', `${to.name} takes no pieces that are ${standingWords[standing]}.`, {
    field: 'toPlaceId',
    purpose: to.purpose,
    standing,
  })
}

/** What is on hold goes to a store where all that holds it lets it: one rule for put-away and transfers. @throws {ServerError} `gate_closed`. */
export async function requireLeave(
  work: Work,
  lot: LotRow,
  to: { readonly purpose: PlacePurpose },
  standing: Standing,
  taken: readonly Taken[],
): Promise<void> {
  if (!mayBeTakenTo(to.purpose, standing, false)) await requireStorable(work, lot, taken)
}

/** Refuses to move pieces that belong to an order that is being made, or to a dispatch that has not left. @throws {ServerError} `place_not_for`. */
export async function requireMovable(
  work: Work,
  lot: { readonly id: string; readonly code: string },
  from: { readonly name: string; readonly purpose: PlacePurpose },
  taken: readonly Taken[],
): Promise<void> {
  const isBeingMade = await productionOrderRows.exists(work.manager, { lotId: lot.id, state: 'released' })
  for (const { spot } of taken) {
    const bound = boundTo(from.purpose, { isBeingMade, isPicked: await isPicked(work, spot.sublot) })
    if (bound === null) continue
    throw new ServerError('place_not_for', `What lies in ${from.name} of ${lot.code} ${words[bound]}`, {
      field: 'fromPlaceId',
      purpose: from.purpose,
    })
  }
}
