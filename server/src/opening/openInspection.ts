import {
  cellCount,
  countedOf,
  ownLimits,
  plannedMinutes,
  questionOf,
  ruleUnder,
  sampleFor,
  spotExtentOf,
  usualConsequence,
  type Consequence,
  type PointLine,
  type Sample,
  type SamplingRule,
  type SubjectKind,
} from '@nemawashi/core'
import { sameFacts, type AlsoFor, type DetachedLimits, type LeftOut, type PlanLine, type SharedPlan } from '@nemawashi/contract'
import type { ControlPointRow } from '../attach/entities'
import { detailsOf } from '../define/library/checkedFields'
import type { CharacteristicRevisionRow } from '../define/library/entities'
import { loadLines } from '../define/plans/planLines'
import { takeEffect } from '../define/plans/planSchedule'
import { memoizeInWork, onceOf } from '../kernel/work/memoizeInWork'
import { ServerError } from '../kernel/base/serverError'
import type { Work } from '../kernel/work/unitOfWork'
import type { InspectionLineRow, InspectionRow } from '../inspections/entities'
import { seriesOf } from '../inspections/series'
import { severityOf, type LineHistory } from './severity'
import { planRevisionRows, planRows } from '../define/plans/rows'
import { characteristicRevisionRows } from '../define/library/rows'
import { insertInspection } from '../inspections/writes'

/** What a line keeps of a sample beyond its two numbers: null for a plain single plan of nonconforming pieces. */
export function schemeOf({ stages, variables, counting, reject, accept }: Sample, shared: SharedPlan[] = []): InspectionLineRow['scheme'] {
  const isStaged = stages.length > 1 || reject > accept + 1
  if (!isStaged && variables === null && counting === 'nonconforming' && shared.length === 0) return null
  return { stages: isStaged ? [...stages] : null, variables, counting, ...(shared.length > 0 ? { shared } : {}) }
}

/** What an inspection is opened on, and for. */
export interface OpeningOf {
  /** The lot; null where the load of the occasion is looked at, as one thing. */
  readonly lotId: string | null
  /** The container or serial number of the lot, where it is of one; null for all of the lot. */
  readonly unit: { readonly kind: SubjectKind; readonly containerId: string } | null
  /** The part that it is of; null for a load. */
  readonly partId: string | null
  readonly lotSize: number
  readonly holdPlaceId: string | null
  readonly occasionId: string | null
  /** The load that it looks at, where it is of no lot. */
  readonly loadId?: string | null
  readonly followsId?: string | null
  /** Where its lines have their history; null where it has none, as one that follows another. */
  readonly history: Omit<LineHistory, 'characteristicId'> | null
}

/** An inspection that was opened: by its id and number, and its largest sample. */
export interface OpenedInspection {
  readonly id: string
  readonly code: string
  readonly sampleMost: number
}

type Point = Pick<
  ControlPointRow,
  'id' | 'code' | 'planId' | 'operationId' | 'isGate' | 'onFailure' | 'dueHours' | 'responsible' | 'moment' | keyof Consequence
>

/** What follows from its finding; null where that is the usual. Quick questions whose plan was given a line since that is not judged belong to the bench. */
function consequenceOf(
  { whenConforming, advice, followPlanId, answeredAt, tells, keepsFrom, setsAside, moment }: Point,
  lines: readonly LineToAsk[],
): Consequence | null {
  const isFit = spotExtentOf(moment) === 'any' || lines.every(({ revision }) => revision.kind === 'judged')
  const consequence: Consequence = { whenConforming, advice, followPlanId, answeredAt: isFit ? answeredAt : 'bench', tells, keepsFrom, setsAside }
  return sameFacts(consequence, usualConsequence) ? null : consequence
}

/** A line as it is about to be asked. */
export interface LineToAsk extends PointLine {
  readonly characteristicId: string
  readonly name: string
  readonly revision: CharacteristicRevisionRow
  readonly minutesPerPiece: number | null
  readonly detached: DetachedLimits | null
  readonly severity: InspectionLineRow['severity']
  readonly scheme: InspectionLineRow['scheme']
}
/** What a control point asks of something, worked out and not opened yet. */
export interface PointSample {
  readonly planRevisionId: string
  readonly planName: string
  readonly lines: readonly LineToAsk[]
}

/**
 * What a plan asks now, whatever it is asked of: its released revision, and that of each characteristic of it.
 * @throws {ServerError} `nothing_released`.
 */
async function releasedNow(work: Work, { code, planId }: Pick<Point, 'code' | 'planId'>) {
  await takeEffect(work, planId)
  const revision = await planRevisionRows.find(work.manager, { planId, state: 'released' })
  const plan = await planRows.load(work.manager, planId)
  if (!revision) {
    throw new ServerError(
      'nothing_released',
      `The control point ${code} asks for the plan ${plan.code}, which has no released revision. Release one, or retire the control point.`,
      { controlPoint: code, plan: plan.code },
    )
  }
  const lines: { line: PlanLine; characteristic: CharacteristicRevisionRow }[] = []
  for (const line of await loadLines(work.manager, revision.id)) {
    const characteristic = await characteristicRevisionRows.find(work.manager, {
      characteristicId: line.characteristicId,
      state: 'released',
    })
    if (!characteristic)
      throw new ServerError('nothing_released', `The characteristic ${line.code} has no released revision.`, { characteristic: line.code })
    lines.push({ line, characteristic })
  }
  return { revision, plan, lines }
}

/**
 * What a control point asks of a lot: its lines keep the revisions that are released now, and the samples are worked out.
 * @throws {ServerError} `nothing_released` when the plan or a characteristic has no released revision: a gate never opens by omission.
 */
export async function loadPointSample(work: Work, point: Point, { partId, lotSize, history }: OpeningOf): Promise<PointSample> {
  const { revision, plan, lines: released } = await memoizeInWork(work, `released ${point.planId}`, () => releasedNow(work, point))
  const lines: LineToAsk[] = []
  for (const { line, characteristic } of released) {
    const sampling = line.sampling as SamplingRule
    const severity = history === null ? null : await severityOf(work.manager, sampling, { ...history, characteristicId: line.characteristicId })
    const rule = severity === null ? sampling : ruleUnder(sampling, severity.state)
    // Many lots of a delivery are of one size.
    const counted = countedOf(characteristic.kind)
    const sample = onceOf(work, `sample ${JSON.stringify(rule)} ${lotSize} ${counted}`, () => sampleFor(rule, lotSize, counted))
    const detached = ownLimits(line, partId, characteristic.revision)
    const { characteristicId, name, isRequired, isDecisive, minutesPerPiece } = line
    lines.push({
      question: questionOf(point.operationId, characteristicId, detached),
      characteristicId,
      name,
      revision: characteristic,
      sampleSize: sample.sampleSize,
      accept: sample.accept,
      isByHistory: severity !== null,
      isRequired,
      isDecisive,
      minutesPerPiece,
      detached,
      severity,
      scheme: schemeOf(sample),
    })
  }
  return { planRevisionId: revision.id, planName: plan.name, lines }
}

/** What is asked with a line for others, and what others ask in its stead. */
export interface Shared {
  readonly alsoFor: ReadonlyMap<string, readonly AlsoFor[]>
  /** By question, the plans of those that ask it with another sample. */
  readonly plans: ReadonlyMap<string, readonly SharedPlan[]>
  readonly leftOut: readonly LeftOut[]
}

/** What a line keeps of its sample, with the plans of others. */
function withShared(scheme: InspectionLineRow['scheme'], shared: readonly SharedPlan[]): InspectionLineRow['scheme'] {
  if (shared.length === 0) return scheme
  return { stages: null, variables: null, counting: 'nonconforming', ...scheme, shared: [...shared] }
}

/** Opens the inspection of a control point, with the lines that it asks. */
export async function openInspection(
  work: Work,
  point: Point,
  { lotId, unit, partId, lotSize, holdPlaceId, occasionId, loadId = occasionId, followsId = null }: OpeningOf,
  { planRevisionId, lines: planLines }: PointSample,
  { alsoFor, plans, leftOut }: Shared = { alsoFor: new Map(), plans: new Map(), leftOut: [] },
): Promise<OpenedInspection> {
  const id = work.newId()
  const lines: InspectionLineRow[] = []
  for (const [position, line] of planLines.entries()) {
    const { sampleSize, accept, isRequired, isDecisive, severity, scheme, detached, revision } = line
    lines.push({
      id: work.newId(),
      inspectionId: id,
      position,
      characteristicRevisionId: revision.id,
      sampleSize,
      accept,
      isRequired,
      isDecisive,
      severity,
      scheme: withShared(scheme, plans.get(line.question) ?? []),
      detached,
      alsoFor: alsoFor.has(line.question) ? [...(alsoFor.get(line.question) ?? [])] : null,
      seriesId: revision.kind === 'measured' && partId !== null ? await seriesOf(work, line.characteristicId, partId, point.operationId) : null,
    })
  }
  const row: InspectionRow = {
    id,
    code: await work.nextCode('I'),
    controlPointId: point.id,
    planRevisionId,
    operationId: point.operationId,
    subjectKind: unit?.kind ?? (lotId === null ? 'load' : 'lot'),
    subjectId: unit?.containerId ?? lotId ?? loadId ?? '',
    lotId,
    occasionId,
    state: 'toDo',
    isGate: point.isGate,
    onFailure: point.onFailure,
    consequence: consequenceOf(point, planLines),
    holdPlaceId: point.isGate ? holdPlaceId : null,
    lotSize,
    asked: cellsAsked(planLines),
    answered: 0,
    openedAt: work.now,
    openedById: null,
    openReason: null,
    startedAt: null,
    startedById: null,
    finishedAt: null,
    finishedById: null,
    verdict: null,
    finding: null,
    version: 1,
    followsId,
    skips: null,
    sampleMost: lines.length === 0 ? null : Math.max(...lines.map(({ sampleSize }) => sampleSize)),
    lineCount: lines.length,
    dueAt: point.dueHours === null ? null : new Date(Date.parse(work.now) + point.dueHours * 3_600_000).toISOString(),
    responsible: point.responsible,
    cancelledAt: null,
    cancelledById: null,
    cancelReason: null,
    minutes: plannedMinutes(planLines),
    leftOut: leftOut.length === 0 ? null : [...leftOut],
  }
  await insertInspection(work, row, lines)
  work.audit({
    action: 'opened',
    subject: 'inspection',
    subjectId: id,
    after: { code: row.code, point: point.code, lotId, lines: lines.length, ...(followsId ? { followsId } : {}) },
  })
  return { id, code: row.code, sampleMost: row.sampleMost ?? 0 }
}

function cellsAsked(lines: readonly LineToAsk[]): number {
  return lines.reduce((sum, { revision, sampleSize }) => sum + cellCount({ recording: detailsOf(revision.details).recording, sampleSize }), 0)
}
