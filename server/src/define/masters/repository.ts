import type { Reader } from '../../kernel/work/database'
import type { Column, ListSpec } from '../../kernel/http/lists'
import type { SearchProvider } from '../../kernel/area'
import { rowsOf } from '../../kernel/database/rowsOf'

/** Parts, plans and characteristics by code or name. */
export const definitionsFound: readonly SearchProvider[] = [
  {
    kind: 'part',
    sql: `SELECT id, code AS title, name AS detail FROM part WHERE code LIKE ? ESCAPE '\\' OR name LIKE ? ESCAPE '\\' ORDER BY code LIMIT 6`,
  },
  {
    kind: 'plan',
    sql: `SELECT id, code AS title, name AS detail FROM plan WHERE code LIKE ? ESCAPE '\\' OR name LIKE ? ESCAPE '\\' ORDER BY code LIMIT 6`,
  },
  {
    kind: 'characteristic',
    sql: `SELECT c.id, c.code AS title, (SELECT r.name FROM characteristic_revision r WHERE r.characteristic_id = c.id ORDER BY r.revision DESC LIMIT 1) AS detail
          FROM characteristic c WHERE c.code LIKE ? ESCAPE '\\' OR c.id IN (SELECT w.id FROM characteristic_text w WHERE w.words LIKE ? ESCAPE '\\') ORDER BY c.code LIMIT 6`,
  },
]

const named: Record<string, Column> = {
  id: { sql: 't.id' },
  code: { sql: 't.code' },
  name: { sql: 't.name' },
  version: { sql: 't.version', kind: 'number' },
}

/** How often a reason was given: for an act that says why, for what became of pieces, for a line that was left out. */
const reasonUses = `(SELECT COUNT(*) FROM audit a WHERE a.why = t.name) + (SELECT COUNT(*) FROM decision_part p WHERE p.reason = t.name)
  + (SELECT COUNT(*) FROM inspection i, json_each(i.skips) j WHERE i.skips IS NOT NULL AND json_extract(j.value, '$.reason') = t.name)`

/** Characteristics in use whose latest revision says so. */
function usesIn(condition: string): Column {
  return { sql: `(SELECT COUNT(*) FROM characteristic_revision r WHERE r.state <> 'retired' AND ${condition})`, kind: 'number' }
}

const isActive: Column = { sql: 't.is_active', kind: 'flag' }

/** What the list of each kind shows beyond code and name. */
export const masterColumns = {
  families: {},
  partners: { kind: { sql: 't.kind' }, isActive, supplierGroup: { sql: 't.supplier_group' } },
  places: { purpose: { sql: 't.purpose' }, countsForPlanning: { sql: 't.counts_for_planning', kind: 'flag' } },
  answerLists: {
    isActive,
    answers: { sql: 'json_array_length(t.answers)', kind: 'number' },
    uses: usesIn(`json_extract(r.details, '$.answerListId') = t.id`),
  },
  // Characteristics that offer it, and pieces that it was seen on: what names it by its code.
  faultCodes: {
    isActive,
    uses: {
      sql: `(SELECT COUNT(*) FROM evidence e WHERE e.fault_code = t.code) + ${usesIn(`EXISTS (SELECT 1 FROM json_each(r.details, '$.faultCodes') j WHERE j.value = t.code)`).sql}`,
      kind: 'number',
    },
  },
  // Reasons are written into what they explain as words; the audit chain has each use.
  reasons: { isActive, purpose: { sql: 't.purpose' }, uses: { sql: reasonUses, kind: 'number' } },
  classes: { isActive, uses: usesIn('r.class = t.code') },
  countUnits: { isActive, uses: usesIn(`json_extract(r.details, '$.countUnit') = t.name`) },
  gaugeKinds: {
    isActive,
    isAsked: { sql: 't.is_asked', kind: 'flag' },
    isWaivable: { sql: 't.is_waivable', kind: 'flag' },
    uses: {
      sql: `(SELECT COUNT(*) FROM gauge g WHERE g.kind_id = t.id) + ${usesIn(`json_extract(r.details, '$.gaugeKind') = t.code`).sql}`,
      kind: 'number',
    },
  },
  measureUnits: {
    isActive,
    quantity: { sql: 't.quantity' },
    factor: { sql: 't.factor', isNullable: true },
    shift: { sql: 't.shift', isNullable: true },
    uses: usesIn('r.unit = t.code'),
  },
  finerStandings: {
    isActive,
    standing: { sql: 't.standing' },
    mayUse: { sql: 't.may_use', kind: 'flag' },
    mayPick: { sql: 't.may_pick', kind: 'flag' },
    mayShip: { sql: 't.may_ship', kind: 'flag' },
    countsForPlanning: { sql: 't.counts_for_planning', kind: 'flag' },
    uses: { sql: '(SELECT COUNT(*) FROM lot_standing x WHERE x.finer_id = t.id AND x.ended_at IS NULL)', kind: 'number' },
  },
  operations: { kind: { sql: 't.kind' } },
} as const satisfies Record<string, Record<string, Column>>

export function masterList(table: string, extra: Record<string, Column>): ListSpec {
  return { from: `${table} t`, id: 't.id', columns: { ...named, ...extra }, search: ['t.code', 't.name'], sort: ['code', 'asc'] }
}

/** How often a record is named elsewhere, by the column that its list shows. */
export async function countUses(reader: Reader, table: string, uses: Column, id: string): Promise<number> {
  const [found] = await rowsOf(reader, { uses: 'number' }, `SELECT ${uses.sql} AS uses FROM ${table} t WHERE t.id = ?`, [id])
  return found?.uses ?? 0
}

export const partList: ListSpec = {
  from: 'part t LEFT JOIN family f ON f.id = t.family_id',
  countFrom: 'part t',
  id: 't.id',
  columns: {
    id: { sql: 't.id' },
    code: { sql: 't.code' },
    name: { sql: 't.name' },
    revision: { sql: 't.revision' },
    unit: { sql: 't.unit' },
    tracking: { sql: 't.tracking' },
    familyId: { sql: 't.family_id', isNullable: true },
    familyName: { sql: 'f.name', isNullable: true },
    putAwayPlaceId: { sql: 't.put_away_place_id', isNullable: true },
    packQuantity: { sql: 't.pack_quantity', kind: 'quantity', isNullable: true },
    holdDays: { sql: 't.hold_days', kind: 'number', isNullable: true },
    points: {
      sql: `(SELECT COUNT(*) FROM control_point c WHERE c.state = 'active' AND (c.part_id = t.id OR (c.part_id IS NULL AND (c.family_id = t.family_id OR c.family_id IS NULL)
        AND EXISTS (SELECT 1 FROM routing_step r WHERE r.part_id = t.id AND r.operation_id = c.operation_id))))`,
      kind: 'number',
    },
    version: { sql: 't.version', kind: 'number' },
  },
  search: ['t.code', 't.name', 'f.name'],
  sort: ['code', 'asc'],
}

/** Ids and codes of everything of one kind. */
export async function codesOf(reader: Reader, table: 'plan' | 'answer_list' | 'characteristic' | 'part') {
  return rowsOf(reader, { id: 'text', code: 'text' }, `SELECT id, code FROM ${table}`)
}
