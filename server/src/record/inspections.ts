import { isOpen, judgeLot, type SamplingRule } from '@nemawashi/core'
import { marksOf, type DetachedLimits, type Finding, type Inspection, type InspectionLine, type Reading } from '@nemawashi/contract'
import { detailsOf } from '../define/checkedFields'
import { loadDecisions } from '../stock/decisions'
import type { Reader } from '../kernel/database'
import { ServerError } from '../kernel/serverError'
import { openHolds } from '../stock/holds'
import { namedBalances } from '../stock/ledger'
import { InspectionEntity, type InspectionLineRow } from './entities'
import { sampleWords } from './sampleWords'

type Head = Omit<
  Inspection,
  | 'isGate'
  | 'holds'
  | 'lines'
  | 'readings'
  | 'finding'
  | 'balances'
  | 'otherOpenInspections'
  | 'decisions'
  | 'decision'
  | 'skips'
  | 'follows'
  | 'followUps'
> & {
  isGate: number
  holds: number
  followsId: string | null
}

/** The lines of an inspection in order, with the characteristic revision that each was made from. */
export async function loadInspectionLines(reader: Reader, inspectionId: string): Promise<InspectionLine[]> {
  const rows = (await reader.query(
    `SELECT l.id, l.position, k.code, c.revision, c.name, c.kind, c.class, c.method, c.instruction, c.nominal, c.lower, c.upper, c.unit, c.resolution, c.acceptable_state,
            c.details, COALESCE(p.stage, '') AS stage, COALESCE(p.instruction, '') AS line_instruction, l.sample_size, l.accept, l.scheme, l.detached, p.sampling, i.lot_size, l.is_required, l.is_decisive
     FROM inspection_line l JOIN characteristic_revision c ON c.id = l.characteristic_revision_id JOIN characteristic k ON k.id = c.characteristic_id
     JOIN inspection i ON i.id = l.inspection_id
     LEFT JOIN plan_line p ON p.plan_revision_id = i.plan_revision_id AND p.characteristic_id = k.id
     WHERE l.inspection_id = ? ORDER BY l.position`,
    [inspectionId],
  )) as StoredLine[]
  return rows.map(({ details, scheme, detached, lineInstruction, sampling, lotSize, ...row }) => {
    const limits = detached === null ? null : (JSON.parse(detached) as DetachedLimits)
    const { stages, variables, counting } = scheme === null ? plain : (JSON.parse(scheme) as NonNullable<InspectionLineRow['scheme']>)
    return {
      ...row,
      ...(limits === null ? {} : { nominal: limits.nominal, lower: limits.lower, upper: limits.upper }),
      // What the library tells for every plan, then what this plan's line adds.
      instruction: [row.instruction, lineInstruction].filter((words) => words !== '').join('\n\n'),
      details: detailsOf(details),
      samplingReasoning: sampleWords(ruleOf(sampling), lotSize, row),
      stages,
      variables,
      counting,
      isRequired: row.isRequired === 1,
      isDecisive: row.isDecisive === 1,
    }
  })
}

const plain = { stages: null, variables: null, counting: 'nonconforming' } as const
type Parsed = 'samplingReasoning' | 'isRequired' | 'isDecisive' | 'details' | 'stages' | 'variables' | 'counting'
type StoredLine = Omit<InspectionLine, Parsed> & {
  isRequired: number
  isDecisive: number
  details: string | null
  lineInstruction: string
  scheme: string | null
  detached: string | null
  sampling: string | null
  lotSize: number
}

/** A sampling rule as the database keeps it. */
export function ruleOf(stored: string | null): SamplingRule | null {
  return stored === null ? null : (JSON.parse(stored) as SamplingRule)
}

/** What the lines of an inspection ask for, and why. */
export async function linesAsked(reader: Reader, inspectionId: string) {
  const rows = (await reader.query(
    `SELECT c.name, l.sample_size, l.accept, p.sampling, i.lot_size FROM inspection_line l JOIN inspection i ON i.id = l.inspection_id
     JOIN characteristic_revision c ON c.id = l.characteristic_revision_id
     LEFT JOIN plan_line p ON p.plan_revision_id = i.plan_revision_id AND p.characteristic_id = c.characteristic_id
     WHERE l.inspection_id = ? ORDER BY l.position`,
    [inspectionId],
  )) as { name: string; sampleSize: number; accept: number; sampling: string | null; lotSize: number }[]
  return rows.map(({ sampling, lotSize, ...row }) => ({ ...row, reasoning: sampleWords(ruleOf(sampling), lotSize, row) }))
}

/** The answer that stands in each cell: the last one given. */
export async function loadReadings(reader: Reader, inspectionId: string): Promise<Reading[]> {
  const rows = (await reader.query(
    `SELECT r.id, r.line_id, r.piece, r.value, r.entered, r.mark, r.typed_at, p.name AS recorded_by_name, r.correction AS corrections
     FROM reading r JOIN person p ON p.id = r.person_id WHERE r.inspection_id = ? ORDER BY r.line_id, r.piece, r.correction`,
    [inspectionId],
  )) as Reading[]
  const cells = new Map<string, Reading>()
  for (const row of rows) cells.set(`${row.lineId} ${row.piece}`, row)
  return [...cells.values()]
}

/** What the readings say, line by line and for the lot. */
export function findingOf(lines: readonly InspectionLine[], readings: readonly Reading[]): Finding {
  const finding = judgeLot(marksOf(lines, readings))
  return { ...finding, lines: [...finding.lines] }
}

export async function loadInspection(reader: Reader, id: string): Promise<Inspection> {
  const [head] = (await reader.query(
    `SELECT i.id, i.code, i.state, i.version, t.id AS part_id, t.code AS part_code, t.name AS part_name, t.revision AS part_revision, t.unit,
            l.id AS lot_id, l.code AS lot_code, l.supplier_lot, s.name AS supplier_name, d.id AS delivery_id, d.code AS delivery_code, v.order_number,
            p.code AS plan_code, p.name AS plan_name, r.revision AS plan_revision, o.name AS operation_name, i.lot_size, i.is_gate, EXISTS (SELECT 1 FROM hold h WHERE h.cause_id = i.id) AS holds, i.on_failure, i.cancelled_at, x.name AS cancelled_by_name, i.cancel_reason,
            i.opened_at, i.started_at, a.name AS started_by_name, i.finished_at, b.name AS finished_by_name, i.follows_id
     FROM inspection i JOIN lot l ON l.id = i.lot_id JOIN part t ON t.id = l.part_id JOIN partner s ON s.id = l.supplier_id JOIN occasion v ON v.id = l.origin_id JOIN delivery d ON d.id = v.id
     JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id JOIN operation o ON o.id = i.operation_id
     LEFT JOIN person a ON a.id = i.started_by_id LEFT JOIN person b ON b.id = i.finished_by_id LEFT JOIN person x ON x.id = i.cancelled_by_id WHERE i.id = ?`,
    [id],
  )) as Head[]
  if (!head) throw new ServerError('not_found', `There is no inspection with the id ${id}.`)
  const lines = await loadInspectionLines(reader, id)
  const readings = await loadReadings(reader, id)
  const stored = isOpen(head.state) ? null : await reader.findOneBy(InspectionEntity, { id })
  const others = await openHolds(reader, head.lotId, id)
  const decisions = await loadDecisions(reader, head.lotId)
  const { followsId, ...shown } = head
  const named = `SELECT i.id, i.code, p.name AS plan_name, i.state FROM inspection i JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id`
  const follows = followsId === null ? [] : ((await reader.query(`${named} WHERE i.id = ?`, [followsId])) as Inspection['followUps'])
  return {
    ...shown,
    skips: stored?.skips ?? [],
    follows: follows[0] ?? null,
    followUps: (await reader.query(`${named} WHERE i.follows_id = ? ORDER BY i.code`, [id])) as Inspection['followUps'],
    isGate: head.isGate === 1,
    holds: head.holds === 1,
    lines,
    readings,
    finding: stored?.finding ?? findingOf(lines, readings),
    balances: await namedBalances(reader, head.lotId),
    otherOpenInspections: others.map((other) => other.code),
    decision: decisions.find(({ inspectionId }) => inspectionId === id) ?? null,
    decisions,
  }
}
