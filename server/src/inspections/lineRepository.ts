import type { CharacteristicKind } from '@nemawashi/core'
import type { InspectionLine } from '@nemawashi/contract'
import type { Reader } from '../kernel/work/database'
import { rowsOf, type Columns } from '../kernel/database/rowsOf'
import { describedColumns } from '../define/library/repository'

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
  ...describedColumns,
  accept: 'number',
  sampleSize: 'number',
  method: 'text',
  stage: 'text',
  code: 'text',
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
