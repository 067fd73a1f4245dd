import { samplingUnitsDone, samplingUnitsIn } from '@nemawashi/core'
import type { endpoints, PastOccasions } from '@nemawashi/contract'
import type { z } from 'zod'
import { pointsInForce, releasedRevision } from '../../attach/repository'
import { loadLines } from '../../define/plans/planLines'
import { dayOf } from '../../kernel/database/plantTime'
import type { Reader } from '../../kernel/work/database'
import { inTurns } from '../../kernel/work/inTurns'
import { lotsJudgedSince } from '../../opening/severity'
import { loadPastEvents, openedSince, loadTrackedUnits, type PastEventRow } from './repository'

type Query = z.output<(typeof endpoints.attach.getPastOccasions)['query']>

/** Happenings that are played at most; the page says when there were more. */
const maxOccasions = 20_000

/** What the plans ask, as far as it is released. */
async function plansOf(reader: Reader, planIds: ReadonlySet<string>): Promise<PastOccasions['plans']> {
  const plans: PastOccasions['plans'] = []
  for (const id of planIds) {
    const revision = await releasedRevision(reader, id)
    const lines = revision?.state === 'released' ? await loadLines(reader, revision.id) : []
    plans.push({
      id,
      lines: lines.map(({ characteristicId, sampling, minutesPerPiece, isRequired, isDecisive, targets, detached }) => {
        return { characteristicId, sampling, minutesPerPiece, isRequired, isDecisive, targets, detached }
      }),
    })
  }
  return plans
}

const keyOf = ({ occasionId, lotId, operationId }: Pick<PastEventRow, 'occasionId' | 'lotId' | 'operationId'>) =>
  `${occasionId} ${lotId} ${operationId}`

type Outcome = Pick<PastOccasions['occasions'][number], 'opened' | 'failed' | 'judged'>

/** What became of it then: what was opened, which plans were not accepted, and how lines were judged. What the load was asked counts with its first line. */
async function outcomesOf(reader: Reader, rows: readonly PastEventRow[]): Promise<(row: PastEventRow) => Outcome> {
  const since = rows[0]?.at ?? ''
  const found = new Map<string, Omit<Outcome, 'opened'> & { inspections: Set<string> }>()
  const judged = await lotsJudgedSince(reader, since)
  await inTurns(await openedSince(reader, since), ({ planId, inspectionId, verdict, ...opened }) => {
    const key = keyOf(opened)
    const known = found.get(key) ?? { inspections: new Set<string>(), failed: [], judged: [] }
    known.inspections.add(inspectionId)
    if (verdict !== null && verdict !== 'acceptable') known.failed.push(planId)
    known.judged.push(...(judged.get(inspectionId) ?? []).filter((line) => line.planId === planId))
    found.set(key, known)
  })
  const counted = new Set<string>()
  return (row) => {
    // What is before its goods has no lot, and is the load itself.
    const own = row.lotId === '' ? undefined : found.get(keyOf(row))
    const loadKey = keyOf({ ...row, lotId: '' })
    const load = found.get(loadKey)
    const ofLoad = counted.has(loadKey) ? 0 : (load?.inspections.size ?? 0)
    counted.add(loadKey)
    const both = <T>(read: (outcome: Omit<Outcome, 'opened'>) => T[]) => [own, load].flatMap((outcome) => (outcome ? read(outcome) : []))
    return { opened: (own?.inspections.size ?? 0) + ofLoad, failed: both(({ failed }) => failed), judged: both((outcome) => outcome.judged) }
  }
}

/** What happened in the last days, oldest first, and what is in force now: what a rehearsal of the past plays. */
export async function pastOccasions(reader: Reader, { partId, familyId, planId, days }: Query, now: Date): Promise<PastOccasions> {
  const rows = await loadPastEvents(reader, { partId: partId ?? null, familyId: familyId ?? null }, maxOccasions + 1)
  const isCut = rows.length > maxOccasions
  const kept = rows.slice(0, maxOccasions).reverse()
  const outcomeOf = await outcomesOf(reader, kept)
  const units = await loadTrackedUnits(reader, [...new Set(kept.map(({ lotId }) => lotId))])
  const points = await pointsInForce(reader, dayOf(reader, now))
  return {
    from: dayOf(reader, new Date(now.getTime() - (days - 1) * 86_400_000)),
    until: dayOf(reader, now),
    points,
    plans: await plansOf(reader, new Set([...points.map((point) => point.planId), ...(planId === undefined ? [] : [planId])])),
    occasions: await inTurns(kept, (row) => {
      const { at, lotId, countedBefore, countedAfter, unit, quantity, ...rest } = row
      const countOf = (count: number) => (rest.moment === 'everyMinutes' ? count : samplingUnitsDone(count, unit))
      const counted = countedBefore === null || countedAfter === null ? null : { before: countOf(countedBefore), after: countOf(countedAfter) }
      return {
        ...rest,
        quantity: samplingUnitsIn(quantity, unit),
        counted,
        units: (units.get(lotId) ?? []).map((within) => ({ ...within, quantity: samplingUnitsIn(within.quantity, unit) })),
        id: `${rest.occasionId} ${lotId}`,
        day: dayOf(reader, at),
        atHours: Date.parse(at) / 3_600_000,
        ...outcomeOf(row),
      }
    }),
    isCut,
  }
}
