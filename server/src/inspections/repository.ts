import type { CharacteristicKind, PiecesMeant, SubjectKind } from '@nemawashi/core'
import type { Inspection, InspectionLine, Reading } from '@nemawashi/contract'
import { alike, type ListSpec } from '../kernel/http/lists'
import type { SearchProvider } from '../kernel/area'
import type { Reader } from '../kernel/work/database'
import { eventKinds } from '../stock/ledger/repository'
import { holderSql, looksAtLot } from './queueRepository'
import { rowsOf, type Columns } from '../kernel/database/rowsOf'

const piecesMeantColumns: Columns<PiecesMeant> = { containerId: 'text?', eventId: 'text?' }

/** Which pieces of a lot an inspection did not find acceptable. */
export async function failuresOn(reader: Reader, lotId: string): Promise<PiecesMeant[]> {
  return rowsOf<PiecesMeant>(
    reader,
    piecesMeantColumns,
    `SELECT DISTINCT u.id AS container_id, v.id AS event_id FROM inspection i LEFT JOIN container u ON u.id = i.subject_id
       LEFT JOIN occasion v ON v.id = i.occasion_id AND v.kind IN ${eventKinds}
     WHERE ${looksAtLot} AND i.verdict = 'notAcceptable' AND i.state <> 'cancelled' ORDER BY u.id, v.id`,
    [lotId, lotId],
  )
}

/** Lots that an inspection looks at: its own, or those of its load, or the one of them that is named. */
export async function lotsLookedAt(
  reader: Reader,
  { subjectKind, subjectId, lotId }: { subjectKind: SubjectKind; subjectId: string; lotId: string | null },
  only: string | null = null,
): Promise<string[]> {
  if (subjectKind !== 'load') return lotId === null || (only !== null && only !== lotId) ? [] : [lotId]
  const rows = await rowsOf(reader, { id: 'text' }, 'SELECT id FROM lot WHERE origin_id = ? ORDER BY code', [subjectId])
  return rows.map(({ id }) => id).filter((id) => only === null || id === only)
}

/** Lots of a load that nobody has decided on for its inspection. */
export async function lotsToDecide(reader: Reader, inspectionId: string): Promise<{ id: string; code: string }[]> {
  return rowsOf(
    reader,
    { id: 'text', code: 'text' },
    `SELECT l.id, l.code FROM inspection i JOIN lot l ON l.origin_id = i.subject_id WHERE i.id = ? AND i.subject_kind = 'load'
       AND NOT EXISTS (SELECT 1 FROM decision d WHERE d.inspection_id = i.id AND d.lot_id = l.id) ORDER BY l.code`,
    [inspectionId],
  )
}

/** The number of a load: of a delivery, of one that is expected, or of a dispatch. */
const loadCode = 'COALESCE(d.code, e.code, g.code)'

/** Inspections by their number, or the name of their plan. */
export const inspectionsFound: SearchProvider = {
  kind: 'inspection',
  sql: `SELECT i.id, i.code AS title, pl.name || COALESCE(' · lot ' || l.code, ' · load ' || ${loadCode}, '') AS detail FROM inspection i LEFT JOIN lot l ON l.id = i.lot_id LEFT JOIN delivery d ON d.id = i.subject_id
    LEFT JOIN expected_delivery e ON e.id = i.subject_id LEFT JOIN dispatch g ON g.id = i.subject_id
    JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan pl ON pl.id = r.plan_id
    WHERE i.code LIKE ? ESCAPE '\\' OR pl.name LIKE ? ESCAPE '\\' ORDER BY i.opened_at DESC LIMIT 6`,
}

/** The number of what an inspection looks at: of its lot, or of the load. */
export const lookedAtCode = `COALESCE(l.code, 'load ' || ${loadCode})`

/** What is written on the container or piece that an inspection looks at; looked up for the rows of a page only. */
const unitLabel = '(SELECT u.label FROM container u WHERE u.id = i.subject_id)'

/**
 * What a word may be of: the number, the responsible, the plan, the operation, the lot, its part and supplier, the unit, the load and whose it is,
 * whoever has the task. A word has no space, so what stands side by side is looked through as one.
 */
const findIds: readonly string[] = [
  `SELECT x.id FROM inspection x WHERE x.code IN (SELECT y.code FROM inspection y WHERE ${alike('y.code')})`,
  `SELECT x.id FROM inspection x WHERE x.responsible <> '' AND x.responsible IN (SELECT y.responsible FROM inspection y WHERE y.responsible <> '' AND ${alike('y.responsible')})`,
  `SELECT x.id FROM plan p JOIN plan_revision r ON r.plan_id = p.id JOIN inspection x ON x.plan_revision_id = r.id WHERE ${alike('p.name')}`,
  `SELECT x.id FROM operation o JOIN inspection x ON x.operation_id = o.id WHERE ${alike('o.name')}`,
  `SELECT x.id FROM lot l JOIN inspection x ON x.lot_id = l.id WHERE ${alike(`(l.code || ' ' || l.supplier_lot)`)}`,
  `SELECT x.id FROM part t JOIN lot l ON l.part_id = t.id JOIN inspection x ON x.lot_id = l.id WHERE ${alike(`(t.code || ' ' || t.name)`)}`,
  `SELECT x.id FROM partner s JOIN lot l ON l.supplier_id = s.id JOIN inspection x ON x.lot_id = l.id WHERE ${alike('s.name')}`,
  `SELECT x.id FROM inspection x WHERE x.subject_id IN (SELECT u.id FROM container u WHERE ${alike('u.label')})`,
  ...['delivery', 'dispatch'].map(
    (
      load,
    ) => `SELECT x.id FROM ${load} d JOIN occasion v ON v.id = d.id LEFT JOIN partner s ON s.id = v.partner_id JOIN inspection x ON x.subject_id = d.id
      WHERE ${alike(`(d.code || ' ' || COALESCE(s.name, ''))`)}`,
  ),
  `SELECT x.id FROM expected_delivery e JOIN partner s ON s.id = e.supplier_id JOIN inspection x ON x.subject_id = e.id WHERE ${alike(`(e.code || ' ' || s.name)`)}`,
  `SELECT a.id FROM person n JOIN assignment a ON a.person_id = n.id WHERE ${alike('n.name')}`,
  `SELECT a.id FROM person n JOIN assignment a ON a.holder_id = n.id WHERE a.held_at IS NOT NULL AND ${alike('n.name')}`,
  `SELECT x.id FROM person n JOIN inspection x ON x.started_by_id = n.id WHERE x.id NOT IN (SELECT a.id FROM assignment a WHERE a.held_at IS NOT NULL) AND ${alike('n.name')}`,
]

export const inspectionList: ListSpec = {
  from: `inspection i LEFT JOIN lot l ON l.id = i.lot_id LEFT JOIN part t ON t.id = l.part_id LEFT JOIN delivery d ON d.id = i.subject_id
         LEFT JOIN expected_delivery e ON e.id = i.subject_id LEFT JOIN dispatch g ON g.id = i.subject_id LEFT JOIN occasion v ON v.id = COALESCE(d.id, g.id) LEFT JOIN partner s ON s.id = COALESCE(l.supplier_id, v.partner_id, e.supplier_id) JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id JOIN operation o ON o.id = i.operation_id
         LEFT JOIN assignment a ON a.id = i.id LEFT JOIN person ap ON ap.id = a.person_id LEFT JOIN person hp ON hp.id = ${holderSql}`,
  countFrom: 'inspection i',
  id: 'i.id',
  columns: {
    id: { sql: 'i.id' },
    code: { sql: 'i.code' },
    state: { sql: 'i.state' },
    planName: { sql: 'p.name' },
    partCode: { sql: `COALESCE(t.code, '')` },
    partName: { sql: `COALESCE(t.name, '')` },
    lotCode: { sql: lookedAtCode },
    unitLabel: { sql: unitLabel, isNullable: true },
    supplierName: { sql: `COALESCE(s.name, '')` },
    lotSize: { sql: 'i.lot_size', kind: 'number' },
    isGate: { sql: 'i.is_gate', kind: 'flag' },
    holds: { sql: 'EXISTS (SELECT 1 FROM hold h WHERE h.cause_id = i.id)', kind: 'flag' },
    openedAt: { sql: 'i.opened_at' },
    dueAt: { sql: 'i.due_at', isNullable: true, isMissingLast: true },
    responsible: { sql: 'i.responsible' },
    operationName: { sql: 'o.name' },
    finishedAt: { sql: 'i.finished_at', isNullable: true },
    verdict: { sql: 'i.verdict', isNullable: true },
    answered: { sql: 'i.answered', kind: 'number' },
    asked: { sql: 'i.asked', kind: 'number' },
    sampleMost: { sql: 'i.sample_most', kind: 'number', isNullable: true },
    lineCount: { sql: 'i.line_count', kind: 'number', isNullable: true },
    minutes: { sql: 'i.minutes', kind: 'number', isNullable: true },
    assignedName: { sql: 'ap.name', isNullable: true },
    day: { sql: 'a.day', isNullable: true },
    holderName: { sql: `CASE WHEN i.state IN ('toDo', 'started') THEN hp.name END`, isNullable: true },
    number: { sql: '(SELECT COUNT(*) FROM inspection x WHERE x.subject_id = i.subject_id AND x.code <= i.code)', kind: 'number' },
    ofLot: { sql: '(SELECT COUNT(*) FROM inspection x WHERE x.subject_id = i.subject_id)', kind: 'number' },
  },
  search: [],
  findIds,
  sort: ['openedAt', 'desc'],
}

type Head = Omit<
  Inspection,
  | 'isGate'
  | 'whenConforming'
  | 'keepsFrom'
  | 'setAside'
  | 'advice'
  | 'answeredAt'
  | 'spotAnswerer'
  | 'holds'
  | 'lines'
  | 'readings'
  | 'finding'
  | 'held'
  | 'balances'
  | 'otherOpenInspections'
  | 'decisions'
  | 'decision'
  | 'skips'
  | 'follows'
  | 'followUps'
  | 'toDecide'
  | 'assignment'
  | 'leftOut'
  | 'dropped'
  | 'sorted'
> & {
  consequence: string | null
  subjectId: string
  isGate: number
  holds: number
  followsId: string | null
  leftOut: string | null
  occasionId: string | null
}

type Parsed =
  | 'severity'
  | 'samplingReasoning'
  | 'isRequired'
  | 'isDecisive'
  | 'details'
  | 'stages'
  | 'variables'
  | 'counting'
  | 'alsoFor'
  | 'adaptedFrom'
  | 'shared'

export type StoredLine = Omit<InspectionLine, Parsed> & {
  isRequired: number
  isDecisive: number
  details: string | null
  lineInstruction: string
  scheme: string | null
  detached: string | null
  sampling: string | null
  severity: string | null
  alsoFor: string | null
  lotSize: number
}

/** What a line asks now: as it was opened, or as somebody adapted it last. */
export function adaptedSql(column: 'size' | 'accept', line: string): string {
  const opened = { size: 'sample_size', accept: 'accept' }[column]
  return `COALESCE((SELECT y.after_${column} FROM adaptation y WHERE y.line_id = ${line}.id ORDER BY y.at DESC, y.id DESC LIMIT 1), ${line}.${opened})`
}
const isAskedSql = `${adaptedSql('size', 'l')} > 0`

const storedLineColumns: Columns<StoredLine> = {
  kind: 'text',
  accept: 'number',
  sampleSize: 'number',
  method: 'text',
  nominal: 'text?',
  lower: 'text?',
  upper: 'text?',
  stage: 'text',
  instruction: 'text',
  code: 'text',
  name: 'text',
  class: 'text',
  unit: 'text?',
  resolution: 'text?',
  acceptableState: 'text?',
  id: 'text',
  revision: 'number',
  position: 'number',
  isRequired: 'number',
  isDecisive: 'number',
  details: 'text?',
  lineInstruction: 'text',
  scheme: 'text?',
  detached: 'text?',
  sampling: 'text?',
  severity: 'text?',
  alsoFor: 'text?',
  lotSize: 'number',
}

/** The lines of an inspection as they are stored, in order; those that were dropped are asked no longer. */
export async function storedLines(reader: Reader, inspectionId: string): Promise<StoredLine[]> {
  return rowsOf<StoredLine>(
    reader,
    storedLineColumns,
    `SELECT l.id, l.position, k.code, c.revision, c.name, c.kind, c.class, c.method, c.instruction, c.nominal, c.lower, c.upper, c.unit, c.resolution, c.acceptable_state,
            c.details, COALESCE(p.stage, '') AS stage, COALESCE(p.instruction, '') AS line_instruction, ${adaptedSql('size', 'l')} AS sample_size, ${adaptedSql('accept', 'l')} AS accept, l.scheme, l.detached, l.severity, l.also_for, p.sampling, i.lot_size, l.is_required, l.is_decisive
     FROM inspection_line l JOIN characteristic_revision c ON c.id = l.characteristic_revision_id JOIN characteristic k ON k.id = c.characteristic_id
     JOIN inspection i ON i.id = l.inspection_id
     LEFT JOIN plan_line p ON p.plan_revision_id = i.plan_revision_id AND p.characteristic_id = k.id
     WHERE l.inspection_id = ? AND ${isAskedSql} ORDER BY l.position`,
    [inspectionId],
  )
}

/** The rules that the lines of an inspection were opened with; null for a line that its plan has no more. */
export async function linesWithRules(
  reader: Reader,
  inspectionId: string,
): Promise<{ lineId: string; kind: CharacteristicKind; sampling: string | null }[]> {
  return rowsOf<{ lineId: string; kind: CharacteristicKind; sampling: string | null }>(
    reader,
    { lineId: 'text', kind: 'text', sampling: 'text?' },
    `SELECT l.id AS line_id, r.kind, p.sampling FROM inspection_line l JOIN inspection i ON i.id = l.inspection_id
     JOIN characteristic_revision r ON r.id = l.characteristic_revision_id
     LEFT JOIN plan_line p ON p.plan_revision_id = i.plan_revision_id AND p.characteristic_id = r.characteristic_id WHERE l.inspection_id = ? ORDER BY l.position`,
    [inspectionId],
  )
}

export interface StoredAdaptation {
  readonly lineId: string
  readonly name: string
  readonly beforeSize: number
  readonly beforeAccept: number
  readonly afterSize: number
  readonly reason: string
  readonly at: string
  readonly byName: string
}
const storedAdaptationColumns: Columns<StoredAdaptation> = {
  lineId: 'text',
  name: 'text',
  beforeSize: 'number',
  beforeAccept: 'number',
  afterSize: 'number',
  reason: 'text',
  at: 'text',
  byName: 'text',
}

/** What was changed of the samples of an inspection, oldest first. */
export async function adaptationsOf(reader: Reader, inspectionId: string): Promise<StoredAdaptation[]> {
  return rowsOf<StoredAdaptation>(
    reader,
    storedAdaptationColumns,
    `SELECT a.line_id, c.name, a.before_size, a.before_accept, a.after_size, a.reason, a.at, p.name AS by_name
     FROM adaptation a JOIN inspection_line l ON l.id = a.line_id JOIN characteristic_revision c ON c.id = l.characteristic_revision_id
     JOIN person p ON p.id = a.person_id WHERE a.inspection_id = ? ORDER BY a.at, a.id`,
    [inspectionId],
  )
}

/** What the lines of inspections ask for, and the rules that it was worked out by. */
export async function storedSamples(reader: Reader, inspectionIds: readonly string[]) {
  return rowsOf<{
    inspectionId: string
    name: string
    kind: CharacteristicKind
    sampleSize: number
    accept: number
    severity: string | null
    sampling: string | null
    lotSize: number
  }>(
    reader,
    {
      inspectionId: 'text',
      name: 'text',
      kind: 'text',
      sampleSize: 'number',
      accept: 'number',
      severity: 'text?',
      sampling: 'text?',
      lotSize: 'number',
    },
    `SELECT l.inspection_id, c.name, c.kind, ${adaptedSql('size', 'l')} AS sample_size, ${adaptedSql('accept', 'l')} AS accept, l.severity, p.sampling, i.lot_size FROM inspection_line l JOIN inspection i ON i.id = l.inspection_id
     JOIN characteristic_revision c ON c.id = l.characteristic_revision_id
     LEFT JOIN plan_line p ON p.plan_revision_id = i.plan_revision_id AND p.characteristic_id = c.characteristic_id
     WHERE l.inspection_id IN (SELECT value FROM json_each(?)) AND ${isAskedSql} ORDER BY l.inspection_id, l.position`,
    [JSON.stringify(inspectionIds)],
  )
}

const readingColumns: Columns<Reading> = {
  id: 'text',
  lineId: 'text',
  piece: 'number',
  value: 'text?',
  entered: 'text?',
  mark: 'text',
  typedAt: 'text',
  recordedByName: 'text',
  corrections: 'number',
}

/** Every answer of an inspection, each cell's in the order in which they were given. */
export async function storedReadings(reader: Reader, inspectionId: string): Promise<Reading[]> {
  return rowsOf<Reading>(
    reader,
    readingColumns,
    `SELECT r.id, r.line_id, r.piece, r.value, r.entered, r.mark, r.typed_at, p.name AS recorded_by_name, r.correction AS corrections
     FROM reading r JOIN person p ON p.id = r.person_id WHERE r.inspection_id = ? ORDER BY r.line_id, r.piece, r.correction`,
    [inspectionId],
  )
}

const headColumns: Columns<Head> = {
  partId: 'text?',
  code: 'text',
  unit: 'text',
  partCode: 'text',
  id: 'text',
  state: 'text',
  version: 'number',
  operationName: 'text',
  planCode: 'text',
  planName: 'text',
  supplierName: 'text',
  onFailure: 'text',
  need: 'text',
  planRevision: 'number',
  subjectKind: 'text',
  partName: 'text',
  partRevision: 'text',
  lotId: 'text?',
  lotCode: 'text',
  unitLabel: 'text?',
  supplierLot: 'text',
  originKind: 'text',
  originId: 'text',
  originCode: 'text',
  orderNumber: 'text',
  operationKind: 'text',
  lotSize: 'number',
  openedAt: 'text',
  openedByName: 'text?',
  openReason: 'text?',
  startedAt: 'text?',
  startedByName: 'text?',
  finishedAt: 'text?',
  finishedByName: 'text?',
  cancelledAt: 'text?',
  cancelledByName: 'text?',
  cancelReason: 'text?',
  consequence: 'text?',
  subjectId: 'text',
  isGate: 'number',
  holds: 'number',
  followsId: 'text?',
  leftOut: 'text?',
  occasionId: 'text?',
}

/** An inspection with the names of everything around it. */
export async function inspectionHead(reader: Reader, id: string, ofLot: string | null): Promise<Head | null> {
  const [head] = await rowsOf<Head>(
    reader,
    headColumns,
    `SELECT i.id, i.code, i.state, i.version, i.subject_kind, i.subject_id, i.occasion_id, t.id AS part_id, COALESCE(t.code, '') AS part_code, COALESCE(t.name, '') AS part_name,
            COALESCE(t.revision, '') AS part_revision, COALESCE(t.unit, 'piece') AS unit,
            l.id AS lot_id, ${lookedAtCode} AS lot_code, u.label AS unit_label, COALESCE(l.supplier_lot, '') AS supplier_lot, COALESCE(s.name, '') AS supplier_name, v.kind AS origin_kind, COALESCE(d.id, w.id, e.id, g.id) AS origin_id, COALESCE(w.code, ${loadCode}) AS origin_code, v.order_number,
            p.code AS plan_code, p.name AS plan_name, r.revision AS plan_revision, o.name AS operation_name, o.kind AS operation_kind, i.lot_size, i.is_gate, EXISTS (SELECT 1 FROM hold h WHERE h.cause_id = i.id) AS holds, i.on_failure, i.cancelled_at, x.name AS cancelled_by_name, i.cancel_reason,
            i.opened_at, h.name AS opened_by_name, i.open_reason, i.started_at, a.name AS started_by_name, i.finished_at, b.name AS finished_by_name, i.follows_id, i.left_out, i.consequence, cp.need
     FROM inspection i LEFT JOIN lot l ON l.id = COALESCE(i.lot_id, ?) LEFT JOIN part t ON t.id = l.part_id LEFT JOIN expected_delivery e ON e.id = i.subject_id LEFT JOIN container u ON u.id = i.subject_id
     JOIN occasion v ON v.id = COALESCE(l.origin_id, CASE WHEN e.state = 'received' OR e.id IS NULL THEN i.subject_id ELSE i.occasion_id END)
     LEFT JOIN partner s ON s.id = COALESCE(l.supplier_id, v.partner_id) LEFT JOIN delivery d ON d.id = v.id LEFT JOIN production_order w ON w.lot_id = l.id LEFT JOIN dispatch g ON g.id = i.subject_id
     JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id JOIN operation o ON o.id = i.operation_id JOIN control_point cp ON cp.id = i.control_point_id
     LEFT JOIN person a ON a.id = i.started_by_id LEFT JOIN person b ON b.id = i.finished_by_id LEFT JOIN person x ON x.id = i.cancelled_by_id LEFT JOIN person h ON h.id = i.opened_by_id WHERE i.id = ?`,
    [ofLot, id],
  )
  return head ?? null
}

/** Other inspections as they are named beside one. */
export async function namedInspections(reader: Reader, condition: string, id: string): Promise<Inspection['followUps']> {
  return rowsOf<Inspection['followUps'][number]>(
    reader,
    { id: 'text', code: 'text', planName: 'text', state: 'text' },
    `SELECT i.id, i.code, p.name AS plan_name, i.state FROM inspection i JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id
     WHERE ${condition} ORDER BY i.code`,
    [id],
  )
}

/** Plans whose inspections were opened because of this one. */
export async function plansFollowing(reader: Reader, inspectionId: string): Promise<string[]> {
  const rows = await rowsOf(
    reader,
    { planId: 'text' },
    'SELECT r.plan_id FROM inspection i JOIN plan_revision r ON r.id = i.plan_revision_id WHERE i.follows_id = ?',
    [inspectionId],
  )
  return rows.map(({ planId }) => planId)
}

/** Inspections that an occasion opened. */
export async function openedAt(reader: Reader, occasionId: string): Promise<{ id: string; code: string; planName: string }[]> {
  return rowsOf(
    reader,
    { id: 'text', code: 'text', planName: 'text' },
    `SELECT i.id, i.code, p.name AS plan_name FROM inspection i JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id
     WHERE i.occasion_id = ? ORDER BY i.code`,
    [occasionId],
  )
}
