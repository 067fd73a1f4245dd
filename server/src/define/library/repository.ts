import { setImmediate } from 'node:timers/promises'
import { detailsOf } from './checkedFields'
import type { CharacteristicRevisionRow } from './entities'
import type { Reader } from '../../kernel/work/database'
import { alike, type ListSpec, type Filter } from '../../kernel/http/lists'
import { rowsOf } from '../../kernel/database/rowsOf'

/** Characteristics that control points ask for on such parts. */
export const inspectedOn = (suchParts: string) => `c.id IN (
  SELECT l.characteristic_id FROM part t
  JOIN control_point a ON a.state = 'active' AND (a.part_id = t.id OR (a.part_id IS NULL AND (a.family_id = t.family_id OR a.family_id IS NULL)
    AND EXISTS (SELECT 1 FROM routing_step s WHERE s.part_id = t.id AND s.operation_id = a.operation_id)))
  JOIN plan_revision v ON v.plan_id = a.plan_id AND v.state = 'released' JOIN plan_line l ON l.plan_revision_id = v.id
  WHERE ${suchParts})`

export const narrowing = { state: 'r.state = ?', kind: 'r.kind = ?', familyId: inspectedOn('t.family_id = ?') } as const

export const characteristicList: ListSpec = {
  // The words and the number of the newest revision are kept ready by triggers of the database.
  from: `characteristic c JOIN characteristic_text w ON w.id = c.id
             JOIN characteristic_revision r ON r.characteristic_id = c.id AND r.revision = w.latest`,
  id: 'c.id',
  columns: {
    id: { sql: 'c.id' },
    code: { sql: 'c.code' },
    name: { sql: 'r.name' },
    kind: { sql: 'r.kind' },
    class: { sql: 'r.class' },
    nominal: { sql: 'r.nominal', isNullable: true },
    lower: { sql: 'r.lower', isNullable: true },
    upper: { sql: 'r.upper', isNullable: true },
    unit: { sql: 'r.unit', isNullable: true },
    resolution: { sql: 'r.resolution', isNullable: true },
    acceptableState: { sql: 'r.acceptable_state', isNullable: true },
    revision: { sql: 'r.revision', kind: 'number' },
    state: { sql: 'r.state' },
  },
  search: ['w.words'],
  searchAlso: [inspectedOn(alike(`(t.code || ' ' || t.name)`))],
  sort: ['code', 'asc'],
}

export function characteristicFilters(query: Partial<Record<keyof typeof narrowing, string | undefined>>): Filter[] {
  return (['state', 'kind', 'familyId'] as const).flatMap((name) => {
    const wanted = query[name]
    return wanted === undefined ? [] : [{ sql: narrowing[name], values: [wanted] }]
  })
}

/** What a line of a plan or of an inspection has of its characteristic. */
export const describedColumns = {
  kind: 'text',
  nominal: 'text?',
  lower: 'text?',
  upper: 'text?',
  instruction: 'text',
  name: 'text',
  class: 'text',
  unit: 'text?',
} as const

const revisionColumns = {
  ...describedColumns,
  characteristicId: 'text',
  method: 'text',
  resolution: 'text?',
  acceptableState: 'text?',
  id: 'text',
  revision: 'number',
  state: 'text',
  releasedAt: 'text?',
  releasedById: 'text?',
  details: 'text?',
} as const

/** Every revision of a characteristic, the newest first, with who released it. */
export async function revisionsOf(reader: Reader, characteristicId: string) {
  return rowsOf<Omit<CharacteristicRevisionRow, 'details'> & { details: string | null; releasedByName: string | null }>(
    reader,
    { ...revisionColumns, releasedByName: 'text?' },
    `SELECT r.*, p.name AS released_by_name FROM characteristic_revision r LEFT JOIN person p ON p.id = r.released_by_id
     WHERE r.characteristic_id = ? ORDER BY r.revision DESC`,
    [characteristicId],
  )
}

type CurrentRow = Omit<CharacteristicRevisionRow, 'details'> & { code: string; version: number; details: string | null }

const current = `SELECT c.code, c.version, r.* FROM characteristic c JOIN characteristic_revision r ON r.characteristic_id = c.id
  AND r.revision = (SELECT MAX(l.revision) FROM characteristic_revision l WHERE l.characteristic_id = c.id)`

function currentOf({ code, version, details, ...revision }: CurrentRow): Current {
  return { id: revision.characteristicId, code, version, revision: { ...revision, details: detailsOf(details) } }
}

/** The latest revisions of all characteristics by code, so many at a time; others have their turn in between. */
export async function* currentPages(reader: Reader, size: number): AsyncGenerator<Current[]> {
  for (let after = ''; ;) {
    const columns = { ...revisionColumns, code: 'text', version: 'number' } as const
    const rows = await rowsOf<CurrentRow>(reader, columns, `${current} WHERE c.code > ? ORDER BY c.code LIMIT ?`, [after, size])
    const page = rows.map(currentOf)
    yield page
    const last = page.at(-1)
    if (page.length < size || !last) return
    after = last.code
    await setImmediate()
  }
}

/** The same, all of them by lower-case code. */
export async function currentByCode(reader: Reader): Promise<Map<string, Current>> {
  const all = new Map<string, Current>()
  for await (const page of currentPages(reader, 500)) for (const each of page) all.set(each.code.toLowerCase(), each)
  return all
}

export interface Current {
  readonly id: string
  readonly code: string
  readonly version: number
  readonly revision: CharacteristicRevisionRow
}

/** Whether any plan asks for a characteristic. */
export async function isOnPlan(reader: Reader, characteristicId: string): Promise<boolean> {
  return (await reader.query('SELECT 1 FROM plan_line WHERE characteristic_id = ? LIMIT 1', [characteristicId])).length > 0
}

/** What the chain says that an import did, as JSON; null where there was none. */
export async function importSaid(reader: Reader, subject: 'library' | 'plans', importId: string): Promise<string | null> {
  const [entry] = await rowsOf(reader, { after: 'text' }, `SELECT after FROM audit WHERE subject_id = ? AND subject = ? AND action = 'imported'`, [
    importId,
    subject,
  ])
  return entry?.after ?? null
}

/** A plan that an answer asks for, and how many of its revisions are released: one or none. Null where there is no such plan. */
export async function followUpPlan(reader: Reader, id: string): Promise<{ code: string; released: number } | null> {
  const rows = await rowsOf(
    reader,
    { code: 'text', released: 'number' },
    `SELECT p.code, (SELECT COUNT(*) FROM plan_revision r WHERE r.plan_id = p.id AND r.state = 'released') AS released FROM plan p WHERE p.id = ?`,
    [id],
  )
  return rows[0] ?? null
}
