import {
  mergeDuplicateLines,
  type Ask,
  checkQuantity,
  intervalsIn,
  looksAt,
  ownLimits,
  questionOf,
  quantityOfSamplingUnits,
  ruleUnder,
  samplingUnitsDone,
  sampleFor,
  describeSeverity,
  stepBlocked,
  type PastArrival,
  type PointLine,
  type SamplingRule,
  type SwitchEvent,
} from '@nemawashi/core'
import type { Considered, LineAsked, Operation, endpoints, Rehearsal } from '@nemawashi/contract'
import { v7 } from 'uuid'
import type { z } from 'zod'
import { releasedRevision } from '../../attach/repository'
import { loadLines } from '../../define/plans/planLines'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import { evaluateControlPoints, unitsComing, type ArrivalContext, type ConsideredPoint } from '../../opening/evaluatePoints'
import { arrivalAt } from '../../opening/repository'
import { severityOf } from '../../opening/severity'
import { operationRows, partnerRows, placeRows, partRows } from '../../define/masters/rows'
import { planRows } from '../../define/plans/rows'

type Query = z.output<(typeof endpoints.attach.rehearse)['query']>

/** Lots of a rehearsal as the switching rules see them, by control point and characteristic. */
export type Played = Map<string, SwitchEvent[]>

/** A line that would be asked, with what says whether another one asks the same. */
export interface PlayedLine extends PointLine, Omit<LineAsked, 'sampleSize' | 'accept' | 'askedBy'> {}

/** What the lines of a plan would ask of a lot. Each lot that was played before is taken to have been accepted without a nonconforming piece. */
async function linesOf(reader: Reader, { point }: ConsideredPoint, arrival: ArrivalContext, played: Played): Promise<PlayedLine[]> {
  const revision = await releasedRevision(reader, point.planId)
  if (revision?.state !== 'released') return []
  const isLoad = arrival.subject === 'load'
  const history = {
    planId: point.planId,
    operationId: arrival.operationId,
    partId: arrival.part.id,
    partnerId: arrival.supplierId ?? arrival.customerId,
  }
  const lines: PlayedLine[] = []
  for (const line of await loadLines(reader, revision.id)) {
    const rule = line.sampling as SamplingRule
    const key = `${point.id} ${line.characteristicId}`
    const before = played.get(key) ?? []
    const severity = isLoad ? null : await severityOf(reader, rule, { ...history, characteristicId: line.characteristicId }, before)
    const sample = sampleFor(severity === null ? rule : ruleUnder(rule, severity.state), isLoad ? 1 : unitsComing(arrival))
    const { sampleSize, accept, reject, reasoning } = sample
    if (severity !== null) {
      const passed = { isAccepted: true, isAcceptedTighter: true, isAcceptedEarly: true, accept, under: severity.state } as const
      played.set(key, [...before, { kind: 'lot', ...passed }])
    }
    const { name, characteristicId, isRequired, isDecisive } = line
    lines.push({
      question: questionOf(arrival.operationId, characteristicId, ownLimits(line, isLoad ? null : arrival.part.id, 0)),
      name,
      sampleSize,
      accept,
      reject,
      reasoning: severity === null ? reasoning : `${reasoning}; ${describeSeverity(severity)}`,
      isByHistory: severity !== null,
      isRequired,
      isDecisive,
    })
  }
  return lines
}

/** What the control points that are due would ask, line by line in the order of each plan: once, whoever else asks it, too. */
export async function linesAskedBy(
  reader: Reader,
  due: readonly { considered: ConsideredPoint; arrival: ArrivalContext; planName: string }[],
  played: Played,
): Promise<LineAsked[][]> {
  const asks: Ask<PlayedLine>[] = []
  for (const { considered, arrival } of due) asks.push({ ...considered.point, lines: await linesOf(reader, considered, arrival, played) })
  const once = mergeDuplicateLines(asks)
  return asks.map(({ lines }, i) =>
    lines.map(({ question, name }) => {
      const { lines: kept = [], leftOut = [] } = once[i] ?? {}
      const own = kept.find((line) => line.question === question)
      const left = leftOut.find(({ line }) => line.question === question)
      const { sampleSize, accept, reject, reasoning } = (own ?? left?.line) as PlayedLine
      const by = asks.findIndex(({ id }) => id === left?.askedBy)
      return { name, sampleSize, accept, reject, reasoning, askedBy: due[by]?.planName ?? null }
    }),
  )
}

/** @param whole quantity of the lot, of which a control point may be asked about some at a time */
async function shown(reader: Reader, operation: Operation, arrival: ArrivalContext, considered: ConsideredPoint, whole: number) {
  const { point, level, supersededBy, mismatches, due } = considered
  const plan = await planRows.find(reader, { id: point.planId })
  const place = point.holdPlaceId === null ? null : await placeRows.find(reader, { id: point.holdPlaceId })
  const follow = point.followPlanId === null ? null : await planRows.find(reader, { id: point.followPlanId })
  const times = timesIn(point, samplingUnitsDone(whole, arrival.part.unit))
  const opens = (due?.isDue ?? false) && times !== 0
  return {
    pointId: point.id,
    code: point.code,
    moment: point.moment,
    every: point.every,
    planName: plan?.name ?? '',
    level,
    supersededBy,
    mismatches: [...mismatches],
    due,
    opens,
    times,
    subject: point.subject,
    isGate: point.isGate,
    holds: point.holds,
    blocks: point.isGate ? stepBlocked(operation.kind, point.moment, point.keepsFrom) : null,
    holdPlaceName: place?.name ?? null,
    responsible: point.responsible,
    dueAt: opens && point.dueHours !== null ? new Date(Date.parse(arrival.at) + point.dueHours * 3_600_000).toISOString() : null,
    whenConforming: point.whenConforming,
    setsAside: point.setsAside,
    onFailure: point.onFailure,
    answeredAt: point.answeredAt,
    advice: point.advice,
    followPlanName: follow?.name ?? null,
    tells: point.tells.length,
    lines: [] as LineAsked[],
  } satisfies Considered
}

/** How many pieces of a lot a control point is asked about each time: an interval's, the last one, or all. */
function quantityAt({ moment, every }: ConsideredPoint['point'], quantity: number, unit: string): number {
  const atMost = (units: number) => Math.min(quantityOfSamplingUnits(units, unit), quantity)
  if (moment === 'lastPiece') return atMost(1)
  return moment === 'everyPieces' && every !== null ? atMost(every) : quantity
}

/** How often a control point comes up in a lot of so many; null where that rests on how long the step takes. */
function timesIn({ moment, every }: ConsideredPoint['point'], quantity: number): number | null {
  if (every === null) return 1
  return moment === 'everyPieces' ? intervalsIn(quantity, every) : null
}

/**
 * Plays lots that come to an operation one after another, without writing: what would open for each, by the same rules as in earnest. Each
 * that opens is taken to be accepted, so that the next is judged by it.
 * @throws {ServerError} `not_found`, `reference_unknown`; {CoreError} `lot_size_invalid` and as `sampleFor`.
 */
export async function rehearse(reader: Reader, query: Query, now: Date): Promise<Rehearsal> {
  const { quantity, lots, partnerId = null } = query
  const operation = await operationRows.find(reader, { id: query.operationId })
  const part = await partRows.find(reader, { id: query.partId })
  if (!operation || !part) throw new ServerError('not_found', 'There is no such operation or part.', { field: operation ? 'partId' : 'operationId' })
  checkQuantity(quantity, part.unit)
  const partner = partnerId === null ? null : await partnerRows.find(reader, { id: partnerId })
  if (partnerId !== null && !partner) throw new ServerError('reference_unknown', `The partner ${partnerId} does not exist.`, { field: 'partnerId' })
  const at = query.at ?? now.toISOString()
  const isBought = operation.kind === 'receiving'
  const before = new Map<string, PastArrival[]>()
  const played: Played = new Map()
  const rehearsed: Rehearsal['lots'] = []
  for (let number = 1; number <= lots; number++) {
    const considered: Considered[] = []
    for (const { moment, subject } of looksAt(operation.kind)) {
      const arrival: ArrivalContext = {
        operationId: operation.id,
        moment,
        part,
        subject,
        supplierId: isBought ? partnerId : null,
        customerId: isBought ? null : partnerId,
        supplierGroup: (isBought && partner?.supplierGroup) || null,
        contract: (isBought && query.contract) || null,
        quantity,
        // The lots of a rehearsal are parts of one order.
        orderNumber: 'rehearsed',
        at,
      }
      const entries = await evaluateControlPoints(reader, arrival, v7, before)
      const here = []
      for (const entry of entries) {
        const own = { ...arrival, quantity: quantityAt(entry.point, quantity, part.unit) }
        here.push({ considered: entry, arrival: own, told: await shown(reader, operation, own, entry, quantity) })
      }
      const due = here.filter(({ told }) => told.opens).map((entry) => ({ ...entry, planName: entry.told.planName }))
      for (const [i, lines] of (await linesAskedBy(reader, due, played)).entries()) due[i]?.told.lines.push(...lines)
      considered.push(...here.map(({ told }) => told))
      for (const entry of entries) {
        if (entry.due === null) continue
        const { isDue } = entry.due
        const drawn = arrivalAt(reader, { id: entry.drawId, at, quantity: unitsComing(arrival), order: arrival.orderNumber ?? '' })
        before.set(entry.point.id, [...(before.get(entry.point.id) ?? []), { ...drawn, isInspected: isDue, isAccepted: isDue ? true : null }])
      }
    }
    rehearsed.push({ number, considered })
  }
  return { operationName: operation.name, lots: rehearsed }
}
