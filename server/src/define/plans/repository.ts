import type { SheetLine } from './planSheetPdf'
import type { PlanRevisionRow } from './entities'
import type { ListSpec, Filter } from '../../kernel/http/lists'
import type { PlanLine } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'
import { describedColumns } from '../library/repository'

/** The newest revision of every plan, or of the one with the code. */
export async function latestRevisions(reader: Reader, code: string | undefined) {
  return rowsOf(
    reader,
    { code: 'text', name: 'text', id: 'text' },
    `SELECT p.code, p.name, r.id FROM plan p JOIN plan_revision r ON r.plan_id = p.id
     AND r.revision = (SELECT MAX(l.revision) FROM plan_revision l WHERE l.plan_id = p.id) WHERE CAST(? AS TEXT) IS NULL OR p.code = ? ORDER BY p.code`,
    [code ?? null, code ?? null],
  )
}

/** The id of the plan with a code, whatever its case. */
export async function planIdOf(reader: Reader, code: string): Promise<string | null> {
  const [known] = await rowsOf(reader, { id: 'text' }, 'SELECT id FROM plan WHERE lower(code) = lower(?)', [code])
  return known?.id ?? null
}

export type StoredLine = Omit<PlanLine, 'sampling' | 'isRequired' | 'isDecisive' | 'detached' | 'targets' | 'minutesPerPiece' | 'isAdaptable'> & {
  sampling: string
  isRequired: number
  isDecisive: number
  detached: string | null
  targets: string | null
  details: string | null
}

const storedLineColumns: Columns<StoredLine> = {
  ...describedColumns,
  characteristicId: 'text',
  stage: 'text',
  code: 'text',
  followsRevision: 'number?',
  sampling: 'text',
  isRequired: 'number',
  isDecisive: 'number',
  detached: 'text?',
  targets: 'text?',
  details: 'text?',
}

/** The lines of a plan revision as they are stored, in order. */
export async function storedPlanLines(reader: Reader, planRevisionId: string): Promise<StoredLine[]> {
  return rowsOf<StoredLine>(
    reader,
    storedLineColumns,
    `SELECT l.characteristic_id, l.sampling, l.is_required, l.is_decisive, l.detached, l.stage, l.instruction, l.targets, c.code, r.name, r.kind, r.class, r.unit,
            r.nominal, r.lower, r.upper, r.details,
            CASE WHEN r.state = 'released' THEN r.revision END AS follows_revision
     FROM plan_line l JOIN characteristic c ON c.id = l.characteristic_id
     JOIN characteristic_revision r ON r.id = (SELECT s.id FROM characteristic_revision s WHERE s.characteristic_id = c.id ORDER BY s.state = 'released' DESC, s.revision DESC LIMIT 1)
     WHERE l.plan_revision_id = ? ORDER BY l.position`,
    [planRevisionId],
  )
}

export const planList: ListSpec = {
  from: `plan t JOIN plan_revision r ON r.plan_id = t.id AND r.revision = (SELECT MAX(l.revision) FROM plan_revision l WHERE l.plan_id = t.id)`,
  id: 't.id',
  columns: {
    id: { sql: 't.id' },
    code: { sql: 't.code' },
    name: { sql: 't.name' },
    revision: { sql: 'r.revision', kind: 'number' },
    state: { sql: 'r.state' },
    lines: { sql: '(SELECT COUNT(*) FROM plan_line l WHERE l.plan_revision_id = r.id)', kind: 'number' },
  },
  search: ['t.code', 't.name'],
  sort: ['code', 'asc'],
}

export function planFilters({ state }: { state?: string | undefined }): Filter[] {
  return state === undefined ? [] : [{ sql: 'EXISTS (SELECT 1 FROM plan_revision e WHERE e.plan_id = t.id AND e.state = ?)', values: [state] }]
}

/** Every revision of a plan, the newest first, with who released it. */
export async function planRevisions(reader: Reader, id: string) {
  return rowsOf<PlanRevisionRow & { releasedByName: string | null }>(
    reader,
    {
      id: 'text',
      planId: 'text',
      revision: 'number',
      state: 'text',
      releasedAt: 'text?',
      releasedById: 'text?',
      effectiveFrom: 'text?',
      releasedByName: 'text?',
    },
    `SELECT r.*, p.name AS released_by_name FROM plan_revision r LEFT JOIN person p ON p.id = r.released_by_id WHERE r.plan_id = ? ORDER BY r.revision DESC`,
    [id],
  )
}

/** The revision that a line asks for now: the released one, else the latest. */
export async function characteristicOf(reader: Reader, characteristicId: string): Promise<SheetLine['characteristic']> {
  const [row] = await rowsOf<SheetLine['characteristic']>(
    reader,
    {
      characteristicId: 'text',
      kind: 'text',
      method: 'text',
      nominal: 'text?',
      lower: 'text?',
      upper: 'text?',
      instruction: 'text',
      name: 'text',
      class: 'text',
      unit: 'text?',
      resolution: 'text?',
      acceptableState: 'text?',
      id: 'text',
      revision: 'number',
      state: 'text',
      releasedAt: 'text?',
      releasedById: 'text?',
      details: 'text?',
    },
    `SELECT * FROM characteristic_revision WHERE characteristic_id = ? ORDER BY state = 'released' DESC, revision DESC LIMIT 1`,
    [characteristicId],
  )
  return row as SheetLine['characteristic']
}

export async function pointsUsing(reader: Reader, planId: string): Promise<string[]> {
  const rows = await rowsOf(
    reader,
    { code: 'text' },
    `SELECT code FROM control_point WHERE (plan_id = ? OR follow_plan_id = ?) AND state = 'active' ORDER BY code`,
    [planId, planId],
  )
  return rows.map((row) => row.code)
}

/** Control points that name a plan, the retired ones too. */
export async function pointsEver(reader: Reader, planId: string): Promise<string[]> {
  const rows = await rowsOf(reader, { code: 'text' }, 'SELECT code FROM control_point WHERE plan_id = ? OR follow_plan_id = ? ORDER BY code', [
    planId,
    planId,
  ])
  return rows.map((row) => row.code)
}

/** Whether a control point hangs on the plan, or an answer asks for it: then it cannot go. */
export async function isPlanUsed(reader: Reader, planId: string): Promise<boolean> {
  const rows = await reader.query(
    `SELECT 1 FROM control_point WHERE plan_id = ? OR follow_plan_id = ? UNION ALL
     SELECT 1 FROM characteristic_revision r, json_each(r.details, '$.answers') a WHERE json_extract(a.value, '$.followUpPlanId') = ? LIMIT 1`,
    [planId, planId, planId],
  )
  return rows.length > 0
}
