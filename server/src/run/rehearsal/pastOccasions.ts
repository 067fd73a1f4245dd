import { samplingUnitsDone, samplingUnitsIn } from '@nemawashi/core'
import type { endpoints, PastOccasions } from '@nemawashi/contract'
import type { z } from 'zod'
import { pointsInForce, releasedRevision } from '../../attach/repository'
import { loadLines } from '../../define/plans/planLines'
import { dayOf } from '../../kernel/database/plantTime'
import type { Reader } from '../../kernel/work/database'
import { inTurns } from '../../kernel/work/inTurns'
import { lotsJudgedSince } from '../../opening/severity'
import { happened, openedSince, unitsToldApart, type HappenedRow } from './repository'

type Query = z.output<(typeof endpoints.attach.getPastOccasions)['query']>

/** Happenings that are played at most; the page says when there were more. */
const mostOccasions = 20_000

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

const keyOf = ({ occasionId, lotId, operationId }: Pick<HappenedRow, 'occasionId' | 'lotId' | 'operationId'>) =>
  `${occasionId} ${lotId} ${operationId}`

type Outcome = Pick<PastOccasions['occasions'][number], 'opened' | 'failed' | 'judged'>

/** What became of it then: what was opened, which plans were not accepted, and how lines were judged. What the load was asked counts with its first line. */
async function outcomesOf(reader: Reader, rows: readonly HappenedRow[]): Promise<(row: HappenedRow) => Outcome> {
  const since = rows[0]?.at ?? ''
  const found = new Map<string, Omit<Outcome, 'opened'> & { inspections: Set<string> }>()
  const judged = await lotsJudgedSince(reader, since)
  await inTurns(await openedSince(reader, since), ({ planId, inspectionId, verdict, ...of }) => {
    const key = keyOf(of)
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
    const both = <T>(of: (outcome: Omit<Outcome, 'opened'>) => T[]) => [own, load].flatMap((outcome) => (outcome ? of(outcome) : []))
    return { opened: (own?.inspections.size ?? 0) + ofLoad, failed: both(({ failed }) => failed), judged: both((outcome) => outcome.judged) }
  }
}

/** What happened in the last days, oldest first, and what is in force now: what a rehearsal of the past plays. */
export async function pastOccasions(reader: Reader, { partId, familyId, planId, days }: Query, now: Date): Promise<PastOccasions> {
  const rows = await happened(reader, { partId: partId ?? null, familyId: familyId ?? null }, mostOccasions + 1)
  const isCut = rows.length > mostOccasions
  const kept = rows.slice(0, mostOccasions).reverse()
  const outcomeOf = await outcomesOf(reader, kept)
  const units = await unitsToldApart(reader, [...new Set(kept.map(({ lotId }) => lotId))])
  const points = await pointsInForce(reader, dayOf(reader, now))
  return {
    from: dayOf(reader, new Date(now.getTime() - (days - 1) * 86_400_000)),
    until: dayOf(reader, now),
    points,
    plans: await plansOf(reader, new Set([...points.map((point) => point.planId), ...(planId === undefined ? [] : [planId])])),
    occasions: await inTurns(kept, (row) => {
      const { at, lotId, countedBefore, countedAfter, unit, quantity, ...of } = row
      const countOf = (count: number) => (of.moment === 'everyMinutes' ? count : samplingUnitsDone(count, unit))
      const counted = countedBefore === null || countedAfter === null ? null : { before: countOf(countedBefore), after: countOf(countedAfter) }
      return {
        ...of,
        quantity: samplingUnitsIn(quantity, unit),
        counted,
        units: (units.get(lotId) ?? []).map((within) => ({ ...within, quantity: samplingUnitsIn(within.quantity, unit) })),
        id: `${of.occasionId} ${lotId}`,
        day: dayOf(reader, at),
        atHours: Date.parse(at) / 3_600_000,
        ...outcomeOf(row),
      }
    }),
    isCut,
  }
}
