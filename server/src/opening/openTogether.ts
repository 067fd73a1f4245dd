import { mergeDuplicateLines, heaviestFirst, quantityOfSamplingUnits } from '@nemawashi/core'
import type { AlsoFor, LeftOut } from '@nemawashi/contract'
import type { ControlPointRow } from '../attach/entities'
import type { Work } from '../kernel/work/unitOfWork'
import { recordFrequencyDecisions, unitsComing, type ArrivalContext, type ConsideredPoint } from './evaluatePoints'
import { openInspection, loadPointSample, type PointSample, type LineToAsk, type OpenedInspection, type OpeningOf } from './openInspection'
import { holdSample, openHold, type Within } from '../stock/holds/holds'
import type { HoldCause } from '../stock/ledger/holdRepository'

/** Where an inspection opens, and what it looks at. */
export interface Opening {
  readonly lotIds: readonly string[]
  /** The load that it looks at, where its goods are not here yet; else the occasion's. */
  readonly loadId?: string
  /** The one container or serial number of the lot that it looks at. */
  readonly containerId?: string | null
  /** The event that set the pieces apart which it looks at; null for all of the lot. */
  readonly eventId?: string | null
  readonly holdPlaceId: string | null
  readonly occasionId: string | null
}
/** A control point that was considered for what comes, and where its inspection would open. */
export interface ToOpen {
  readonly arrival: ArrivalContext
  readonly considered: ConsideredPoint
  readonly opening: Opening
}
/** How a gate holds pieces of a lot. */
export type Hold = (work: Work, lotId: string, cause: HoldCause, within: Within) => Promise<unknown>

/** Puts on hold what a gate asks for: no more than the sample, or every lot whole. */
async function holdFor(
  work: Work,
  point: ControlPointRow,
  inspection: OpenedInspection,
  { arrival, opening: { lotIds, holdPlaceId, containerId = null, eventId = null } }: ToOpen,
  hold: Hold,
): Promise<void> {
  for (const lotId of lotIds)
    if (point.holds === 'sample' && holdPlaceId !== null)
      await holdSample(work, lotId, inspection, {
        quantity: quantityOfSamplingUnits(inspection.sampleMost, arrival.part.unit),
        toPlaceId: holdPlaceId,
        containerId,
        eventId,
      })
    else await hold(work, lotId, inspection, { containerId, eventId })
}

const lotOf = ({ arrival, opening }: ToOpen) => (arrival.subject === 'load' ? null : (opening.lotIds[0] ?? null))

function openingOf(entry: ToOpen): OpeningOf {
  const { arrival, considered, opening } = entry
  const { planId } = considered.point
  const isLoad = arrival.subject === 'load'
  return {
    lotId: lotOf(entry),
    unit: isLoad || opening.containerId == null ? null : { kind: arrival.subject, containerId: opening.containerId },
    partId: isLoad ? null : arrival.part.id,
    // A load is one thing, whatever is on it.
    lotSize: isLoad ? 1 : unitsComing(arrival),
    holdPlaceId: opening.holdPlaceId,
    occasionId: opening.occasionId,
    loadId: opening.loadId ?? opening.occasionId,
    history: isLoad
      ? null
      : { planId, operationId: arrival.operationId, partId: arrival.part.id, partnerId: arrival.supplierId ?? arrival.customerId },
  }
}

/** What is due with what it asks; a line that several ask stands with one of them. */
interface DueAsk extends ToOpen {
  readonly asking: PointSample
  readonly shared: ReturnType<typeof mergeDuplicateLines<LineToAsk>>[number]
}

async function dueAsks(work: Work, entries: readonly ToOpen[]): Promise<DueAsk[]> {
  const samples: { entry: ToOpen; asking: PointSample }[] = []
  for (const entry of entries)
    if (entry.considered.due?.isDue === true) samples.push({ entry, asking: await loadPointSample(work, entry.considered.point, openingOf(entry)) })
  const shared = mergeDuplicateLines(
    samples.map(
      ({
        entry: {
          considered: { point },
        },
        asking,
      }) => ({ ...point, lines: asking.lines }),
    ),
  )
  return samples.map(({ entry, asking }, i) => ({ ...entry, asking, shared: shared[i] as DueAsk['shared'] }))
}

/**
 * Opens what control points ask of the same pieces, each with the hold of a gate: noted where the pieces come on hold, or put on those
 * that are there; or notes that the arrival passes by. A line that several ask is asked once: whoever it is left nothing to ask opens
 * none, and goes by the one that asks for it.
 */
export async function openTogether(work: Work, entries: readonly ToOpen[], hold: Hold = openHold): Promise<void> {
  const due = await dueAsks(work, entries)
  const opened = new Map<string, OpenedInspection>()
  const named = (id: string, sampleSize: number): AlsoFor => {
    const other = due.find(({ considered: { point } }) => point.id === id)
    return { pointCode: other?.considered.point.code ?? '', planName: other?.asking.planName ?? '', sampleSize }
  }
  // Those that ask in the stead of others come first, so that the others can name them.
  for (const { ask } of heaviestFirst(due.map((ask) => ({ ask, ...ask.considered.point })))) {
    const { point } = ask.considered
    const { lines, leftOut } = ask.shared
    if (lines.length === 0 && leftOut.length > 0) continue
    const alsoFor = new Map(
      lines.flatMap((line) =>
        line.alsoFor.length > 0 ? [[line.question, line.alsoFor.map((covered) => named(covered.id, covered.sampleSize))]] : [],
      ),
    )
    const plans = new Map(
      lines.flatMap((line) =>
        line.others.length > 0
          ? [
              [
                line.question,
                line.others.map(({ id, line: { sampleSize, accept, scheme } }) => {
                  const { planName } = named(id, sampleSize)
                  return { planName, sampleSize, accept, stages: scheme?.stages ?? null, variables: scheme?.variables ?? null }
                }),
              ] as const,
            ]
          : [],
      ),
    )
    const left: LeftOut[] = leftOut.flatMap(({ line, askedBy }) => {
      const by = opened.get(askedBy)
      return by ? [{ name: line.name, inspectionId: by.id, code: by.code }] : []
    })
    const inspection = await openInspection(work, point, openingOf(ask), { ...ask.asking, lines }, { alsoFor, plans, leftOut: left })
    opened.set(point.id, inspection)
    if (point.isGate) await holdFor(work, point, inspection, ask, hold)
  }
  for (const { arrival, considered, opening } of entries) {
    const shared = due.find((ask) => ask.considered === considered)?.shared
    const by = opened.get(considered.point.id) ?? opened.get(shared?.leftOut[0]?.askedBy ?? '')
    const { occasionId } = opening
    await recordFrequencyDecisions(work, arrival, considered, {
      occasionId,
      lotId: lotOf({ arrival, considered, opening }),
      inspectionId: considered.due?.isDue === true ? (by?.id ?? null) : null,
    })
  }
}
