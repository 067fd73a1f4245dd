import { inspectionStateWords, isOpen, looksBackwards, madeSince, takeFrom, type Taken } from '@nemawashi/core'
import type { MadeSince } from '@nemawashi/contract'
import { inspectionRows } from '../../inspections/rows'
import { ServerError } from '../../kernel/base/serverError'
import type { Reader } from '../../kernel/work/database'
import type { Work } from '../../kernel/work/unitOfWork'
import { onLine } from '../../opening/onLine'
import { openHold, type Within } from '../../stock/holds/holds'
import type { HoldCause } from '../../stock/ledger/holdRepository'
import { balancesNow, movePieces } from '../../stock/ledger/ledger'
import { namedBalances } from '../../stock/ledger/repository'
import { checksBefore, goodReports, heldByNumber, runOf, serialsMadeAfter } from './madeSinceRepository'

/** Serial numbers that are named; there may be thousands. */
const mostNamed = 200

interface Found {
  readonly run: MadeSince
  readonly lotId: string
  /** Pieces that are meant one by one, where the step that made them told which; null: by their number. */
  readonly pieces: readonly string[] | null
}

async function find(reader: Reader, inspectionId: string): Promise<Found | null> {
  const run = await runOf(reader, inspectionId)
  if (run === null) return null
  const { lotId, stepId, checkedAt, done } = run
  const checks = await checksBefore(reader, run, inspectionId)
  const reports = await goodReports(reader, stepId)
  const goodSince = (count: number) => reports.reduce((sum, report) => sum + (report.done > count ? report.good : 0), 0)
  const lying = onLine(await namedBalances(reader, lotId))
  const free = lying.reduce((sum, { quantity }) => sum + quantity, 0)
  const held = await heldByNumber(reader, lotId, inspectionId)
  const found = madeSince(checks, { goodSince, free, held })
  // Only the step that makes them knows which pieces it made since; at a later one they are known by their number alone.
  const made = run.tracking === 'serial' && run.position === 1 ? await serialsMadeAfter(reader, run, found.since) : null
  const still = made?.filter(({ containerId }) => lying.some((spot) => spot.containerId === containerId)) ?? null
  const { first, most } = looksBackwards(found.since, Math.max(checkedAt, found.since))
  return {
    lotId,
    pieces: still?.map(({ containerId }) => containerId) ?? null,
    run: {
      orderId: run.orderId,
      orderCode: run.orderCode,
      operationName: run.operationName,
      checkedAt,
      done,
      ...found,
      failed: [...found.failed],
      ...(still === null ? {} : { toHold: still.length }),
      held,
      free,
      serials: (made ?? []).slice(0, mostNamed).map(({ serial }) => serial),
      lookFirst: first,
      looks: most,
    },
  }
}

/** What was made since the last conforming check; null where it is no check of a running step. @throws {ServerError} `not_found`. */
export async function madeSinceFor(reader: Reader, inspectionId: string): Promise<MadeSince | null> {
  if (!(await inspectionRows.exists(reader, { id: inspectionId })))
    throw new ServerError('not_found', `There is no inspection with the id ${inspectionId}.`)
  return (await find(reader, inspectionId))?.run ?? null
}

/**
 * Puts on hold, where it lies, what was made since the last check of the same control point that conformed: the very pieces where they have serial
 * numbers and this step made them, otherwise so many of what is free on the line. What is held already is not held again. Gives how many pieces.
 */
export async function holdMade(work: Work, cause: HoldCause): Promise<number> {
  const found = await find(work.manager, cause.id)
  if (found === null || found.run.toHold === 0) return 0
  const { lotId, pieces, run } = found
  const line = onLine(await namedBalances(work.manager, lotId)).map(({ placeId }) => placeId)
  const free = (await balancesNow(work, lotId)).filter(({ standing, placeId }) => standing === 'released' && line.includes(placeId))
  const hold = async (within: Within, quantity: number | null, taken: readonly Taken[]) => {
    const holdId = await openHold(work, lotId, cause, within, quantity)
    for (const { spot, quantity: count } of taken)
      await movePieces(work, lotId, { spot, quantity: count, to: { placeId: spot.placeId, standing: 'onHold' } }, 'held', { holdId })
  }
  if (pieces === null) await hold({}, run.toHold, takeFrom(free, run.toHold))
  else
    for (const containerId of pieces)
      await hold(
        { containerId },
        null,
        takeFrom(
          free.filter((spot) => spot.containerId === containerId),
          1,
        ),
      )
  return run.toHold
}

/**
 * The same by the word of whoever records, before the check is finished.
 * @throws {ServerError} `not_found`, `inspection_closed`, `nothing_made_since`.
 */
export async function holdMadeByHand(work: Work, inspectionId: string): Promise<void> {
  const inspection = await inspectionRows.find(work.manager, { id: inspectionId })
  if (!inspection) throw new ServerError('not_found', `There is no inspection with the id ${inspectionId}.`)
  if (!isOpen(inspection.state))
    throw new ServerError('inspection_closed', `${inspection.code} is ${inspectionStateWords[inspection.state]} already.`, {
      state: inspection.state,
    })
  const held = await holdMade(work, inspection)
  if (held === 0) throw new ServerError('nothing_made_since', `${inspection.code}: nothing that was made since the last conforming check is free.`)
  work.audit({ action: 'held made since', subject: 'inspection', subjectId: inspectionId, after: { quantity: held } })
}
