import { openHolds } from '../stock/ledger/holdRepository'
import { namedBalances } from '../stock/ledger/repository'
import { adaptationsOf, type StoredAdaptation, type StoredLine, storedLines, storedSamples } from './lineRepository'
import { lotsLookedAt, lotsToDecide } from './repository'
import { evidenceOf } from './evidenceRepository'
import { askedKinds, gaugesOf } from './gaugeRepository'
import { storedReadings } from './readingRepository'
import { inspectionHead, namedInspections } from './headRepository'
import {
  holdReaches,
  isOpen,
  judgeLot,
  spotAnswererOf,
  usualConsequence,
  type Consequence,
  type SamplingRule,
  type SeverityNow,
} from '@nemawashi/core'
import {
  marksOf,
  nonconformingPieces,
  type AlsoFor,
  type DetachedLimits,
  type Finding,
  type Inspection,
  type InspectionLine,
  type LeftOut,
  type Reading,
} from '@nemawashi/contract'
import { detailsOf } from '../define/library/checkedFields'
import { loadDecisions } from '../stock/ledger/decisionRepository'
import type { Reader } from '../kernel/work/database'
import { ServerError } from '../kernel/base/serverError'
import { InspectionEntity, type InspectionLineRow, type InspectionRow } from './entities'
import { heldNamed } from '../stock/holds/holds'
import { assignmentOf } from './assignmentRepository'
import { piecesLookedAt } from './unit'
import { sampleStory, sampleWords } from './sampleWords'

/** The lines of an inspection in order, with the characteristic revision that each was made from. */
export async function loadInspectionLines(reader: Reader, inspectionId: string): Promise<InspectionLine[]> {
  return linesFrom(await storedLines(reader, inspectionId), await adaptationsOf(reader, inspectionId))
}

function linesFrom(rows: readonly StoredLine[], adaptations: readonly StoredAdaptation[]): InspectionLine[] {
  return rows.map(({ details, scheme, detached, severity, alsoFor, lineInstruction, sampling, lotSize, ...row }) => {
    const got = severityFrom(severity)
    const limits = detached === null ? null : (JSON.parse(detached) as DetachedLimits)
    const others = alsoFor === null ? [] : (JSON.parse(alsoFor) as AlsoFor[])
    const adapted = adaptedFrom(adaptations.filter(({ lineId }) => lineId === row.id))
    const opened = { severity: got, sampleSize: adapted?.sampleSize ?? row.sampleSize, accept: adapted?.accept ?? row.accept }
    const { stages, variables, counting, shared = [] } = scheme === null ? plain : (JSON.parse(scheme) as NonNullable<InspectionLineRow['scheme']>)
    return {
      ...row,
      ...(limits === null ? {} : { nominal: limits.nominal, lower: limits.lower, upper: limits.upper }),
      // What the library tells for every plan, then what this plan's line adds.
      instruction: [row.instruction, lineInstruction].filter((words) => words !== '').join('\n\n'),
      details: detailsOf(details),
      samplingReasoning: sampleStory(sampleWords(ruleOf(sampling), lotSize, { ...opened, kind: row.kind }), {
        ...row,
        alsoFor: others,
        adaptedFrom: adapted,
      }),
      severity: got,
      alsoFor: others,
      shared,
      adaptedFrom: adapted,
      stages,
      variables,
      counting,
      isRequired: row.isRequired === 1,
      isDecisive: row.isDecisive === 1,
    }
  })
}

/** What a line was opened with, and why it is another now: as it was first, with the latest word on it. */
function adaptedFrom(adaptations: readonly StoredAdaptation[]): InspectionLine['adaptedFrom'] {
  const [first, last] = [adaptations[0], adaptations.at(-1)]
  if (!first || !last) return null
  return { sampleSize: first.beforeSize, accept: first.beforeAccept, reason: last.reason, byName: last.byName, at: last.at }
}

const plain: NonNullable<InspectionLineRow['scheme']> = { stages: null, variables: null, counting: 'nonconforming' }

/** A sampling rule as the database keeps it. */
export function ruleOf(stored: string | null): SamplingRule | null {
  return stored === null ? null : (JSON.parse(stored) as SamplingRule)
}

function severityFrom(stored: string | null): SeverityNow | null {
  return stored === null ? null : (JSON.parse(stored) as SeverityNow)
}

/** What the lines of inspections ask for, and why, inspection by inspection. */
export async function linesAsked(reader: Reader, inspectionIds: readonly string[]) {
  const others = new Map<string, { name: string; sampleSize: number; accept: number; reasoning: string }[]>(inspectionIds.map((id) => [id, []]))
  for (const { inspectionId, sampling, severity, lotSize, kind, ...row } of await storedSamples(reader, inspectionIds))
    others.get(inspectionId)?.push({ ...row, reasoning: sampleWords(ruleOf(sampling), lotSize, { ...row, kind, severity: severityFrom(severity) }) })
  return others
}

/** Whether a line is measured with none but a gauge that was chosen. @param kinds those whose readings want one */
export const wantsGauge = ({ details }: InspectionLine, kinds: ReadonlySet<string>): boolean =>
  details.gaugeKind !== null && kinds.has(details.gaugeKind)

/** The answer that stands in each cell: the last one given. */
export async function loadReadings(reader: Reader, inspectionId: string): Promise<Reading[]> {
  const rows = await storedReadings(reader, inspectionId)
  const cells = new Map<string, Reading>()
  for (const row of rows) cells.set(`${row.lineId} ${row.piece}`, row)
  return [...cells.values()]
}

/** What the readings say, line by line and for the lot. */
export function findingOf(lines: readonly InspectionLine[], readings: readonly Reading[]): Finding {
  const finding = judgeLot(marksOf(lines, readings))
  return { ...finding, lines: [...finding.lines] }
}

/** What follows from a finding; an inspection that an earlier release opened says less, and the rest is as usual. */
export const consequenceFrom = (kept: Partial<Consequence> | null): Consequence => ({ ...usualConsequence, ...kept })

/** Nonconforming pieces that a finished inspection found and sets aside. */
export async function setAsideBy(reader: Reader, { id, consequence }: { id: string; consequence: Consequence | null }): Promise<number> {
  if (!consequenceFrom(consequence).setsAside) return 0
  return nonconformingPieces(await loadInspectionLines(reader, id), await loadReadings(reader, id))
}

/**
 * Nonconforming pieces that a finished inspection found, where every piece was looked at on every line, so that the others are known to be good;
 * null where not all of them were.
 */
export async function sortedOut(
  reader: Reader,
  { id, lotSize, subjectKind }: Pick<InspectionRow, 'id' | 'lotSize' | 'subjectKind'>,
): Promise<number | null> {
  if (subjectKind === 'load') return null
  return sortedBy(await loadInspectionLines(reader, id), await loadReadings(reader, id), lotSize)
}

function sortedBy(lines: readonly InspectionLine[], readings: readonly Reading[], lotSize: number): number | null {
  const isWhole = (line: InspectionLine) =>
    line.sampleSize >= lotSize &&
    line.details.recording === 'pieces' &&
    new Set(readings.filter(({ lineId, value }) => lineId === line.id && value !== null).map(({ piece }) => piece)).size >= lotSize
  return lines.length > 0 && lines.every(isWhole) ? nonconformingPieces(lines, readings) : null
}

/** What stands where of a lot, what else holds it, what this inspection holds of it, and what was decided on it. */
const lotWith = (reader: Reader, lotId: string, inspectionId: string) =>
  Promise.all([
    namedBalances(reader, lotId),
    openHolds(reader, lotId, inspectionId),
    heldNamed(reader, lotId, inspectionId),
    loadDecisions(reader, lotId),
  ])

/** @param ofLot which lot of a load is looked at; its own where it has one */
export async function loadInspection(reader: Reader, id: string, ofLot: string | null = null): Promise<Inspection> {
  const head = await inspectionHead(reader, id, ofLot)
  if (!head) throw new ServerError('not_found', `There is no inspection with the id ${id}.`)
  const { followsId, subjectId, leftOut, consequence, occasionId, ...shown } = head
  const { lotId } = head
  if (ofLot !== null && (lotId !== ofLot || !(await lotsLookedAt(reader, { subjectKind: head.subjectKind, subjectId, lotId }, ofLot)).length))
    throw new ServerError('not_found', `${head.code} does not look at this lot.`, { lotId: ofLot })
  // None of these waits for another: on a server they are under way together.
  const [rows, adaptations, readings, stored, within, follows, followUps, toDecide, assignment, gauges, kinds, evidence, onLot] = await Promise.all([
    storedLines(reader, id),
    adaptationsOf(reader, id),
    loadReadings(reader, id),
    isOpen(head.state) ? null : reader.findOneBy(InspectionEntity, { id }),
    piecesLookedAt(reader, { ...head, occasionId }),
    followsId === null ? [] : namedInspections(reader, 'i.id = ?', followsId),
    namedInspections(reader, 'i.follows_id = ?', id),
    lotsToDecide(reader, id),
    assignmentOf(reader, id),
    gaugesOf(reader, id),
    askedKinds(reader),
    evidenceOf(reader, id),
    lotId === null ? ([[], [], [], []] as const) : lotWith(reader, lotId, id),
  ])
  const lines = linesFrom(rows, adaptations)
  const dropped = adaptations.filter(({ afterSize }) => afterSize === 0)
  const [everywhere, holds, held, decisions] = onLot
  const balances = everywhere.filter((spot) => holdReaches(within, spot))
  const others = holds.filter((hold) => balances.some((spot) => holdReaches(hold, spot)))
  const { whenConforming, advice, answeredAt, keepsFrom, setsAside } = consequenceFrom(
    consequence === null ? null : (JSON.parse(consequence) as Consequence),
  )
  return {
    ...shown,
    whenConforming,
    advice,
    answeredAt,
    spotAnswerer: spotAnswererOf(head.operationKind, answeredAt),
    keepsFrom,
    setAside: setsAside && !isOpen(head.state) ? nonconformingPieces(lines, readings) : 0,
    skips: stored?.skips ?? [],
    follows: follows[0] ?? null,
    followUps,
    isGate: head.isGate === 1,
    holds: head.holds === 1,
    lines,
    readings,
    gauges,
    evidence,
    wantsGauge: lines.filter((line) => wantsGauge(line, kinds)).map((line) => line.id),
    finding: stored?.finding ?? findingOf(lines, readings),
    balances,
    held: [...held],
    sorted: head.subjectKind === 'load' || isOpen(head.state) ? null : sortedBy(lines, readings, head.lotSize),
    toDecide,
    assignment,
    leftOut: leftOut === null ? [] : (JSON.parse(leftOut) as LeftOut[]),
    dropped: dropped.map(({ name, beforeSize, reason, byName, at }) => ({ name, sampleSize: beforeSize, reason, byName, at })),
    otherOpenInspections: [...new Set(others.map((other) => other.code))],
    decision: decisions.find(({ inspectionId }) => inspectionId === id) ?? null,
    decisions: [...decisions],
  }
}
