import type { Instrument } from '@nemawashi/contract'
import { rowsOf, type Columns } from '../kernel/database/rowsOf'
import type { Filter, ListSpec } from '../kernel/http/lists'
import type { Reader, Store } from '../kernel/work/database'
import type { SentValueRow } from './instrumentEntities'

/** Which gauge has this key; null where none has. */
export async function gaugeOfKey(reader: Reader, keyHash: string): Promise<string | null> {
  const [row] = await rowsOf(reader, { gaugeId: 'text' }, 'SELECT gauge_id FROM instrument WHERE key_hash = ?', [keyHash])
  return row?.gaugeId ?? null
}

/** Since when a gauge sends by itself, and who gave it its key. */
export async function instrumentOf(reader: Reader, gaugeId: string): Promise<Omit<Instrument, 'heardAt'> | null> {
  const [row] = await rowsOf(
    reader,
    { givenAt: 'text', givenByName: 'text' },
    'SELECT i.given_at, p.name AS given_by_name FROM instrument i JOIN person p ON p.id = i.given_by_id WHERE i.gauge_id = ?',
    [gaugeId],
  )
  return row ?? null
}

const sentColumns: Columns<SentValueRow> = {
  id: 'text',
  gaugeId: 'text',
  sendId: 'text',
  value: 'text',
  unit: 'text',
  pressedAt: 'text',
  receivedAt: 'text',
  outcome: 'text',
  inspectionId: 'text?',
  personId: 'text?',
  readingId: 'text?',
}
const sentValues = 'SELECT id, gauge_id, send_id, value, unit, pressed_at, received_at, outcome, inspection_id, person_id, reading_id FROM sent_value'

/** The value that an instrument sent under this name; null where it sent none. */
export async function sentBefore(reader: Reader, gaugeId: string, sendId: string): Promise<SentValueRow | null> {
  const [row] = await rowsOf<SentValueRow>(reader, sentColumns, `${sentValues} WHERE gauge_id = ? AND send_id = ?`, [gaugeId, sendId])
  return row ?? null
}

/** What an instrument sent last. */
export async function sentLast(reader: Reader, gaugeId: string): Promise<SentValueRow | null> {
  const [row] = await rowsOf<SentValueRow>(reader, sentColumns, `${sentValues} WHERE gauge_id = ? ORDER BY received_at DESC, id DESC LIMIT 1`, [
    gaugeId,
  ])
  return row ?? null
}

/** A value that was sent, with the unit that its gauge shows. */
type SentFrom = SentValueRow & { readonly gaugeUnit: string | null }

/** Values that were sent, by their ids. */
export async function sentValuesAt(reader: Reader, ids: readonly string[]): Promise<SentFrom[]> {
  const rows: SentFrom[] = []
  for (const id of ids)
    rows.push(
      ...(await rowsOf<SentFrom>(
        reader,
        { ...sentColumns, gaugeUnit: 'text?' },
        `SELECT s.id, s.gauge_id, s.send_id, s.value, s.unit, s.pressed_at, s.received_at, s.outcome, s.inspection_id, s.person_id, s.reading_id, g.unit AS gauge_unit
         FROM sent_value s JOIN gauge g ON g.id = s.gauge_id WHERE s.id = ?`,
        [id],
      )),
    )
  return rows
}

/** A reading stands on a value that was sent. */
export async function noteTaken(store: Store, sentValueId: string, readingId: string): Promise<void> {
  await store.query('UPDATE sent_value SET reading_id = ? WHERE id = ?', [readingId, sentValueId])
}

/** Each value that was sent. */
export const sentValueList: ListSpec = {
  from: 'sent_value s LEFT JOIN inspection i ON i.id = s.inspection_id',
  countFrom: 'sent_value s',
  id: 's.id',
  columns: {
    id: { sql: 's.id' },
    sendId: { sql: 's.send_id' },
    value: { sql: 's.value' },
    unit: { sql: 's.unit' },
    pressedAt: { sql: 's.pressed_at' },
    receivedAt: { sql: 's.received_at' },
    outcome: { sql: 's.outcome' },
    inspectionId: { sql: 's.inspection_id', isNullable: true },
    inspectionCode: { sql: `COALESCE(i.code, '')` },
    isTaken: { sql: 's.reading_id IS NOT NULL', kind: 'flag' },
  },
  search: ['s.value', 's.send_id', 'i.code'],
  sort: ['receivedAt', 'desc'],
}

export function sentValueFilters({ gaugeId, taken }: { gaugeId?: string | undefined; taken?: 'yes' | 'no' | undefined }): Filter[] {
  return [
    ...(gaugeId === undefined ? [] : [{ sql: 's.gauge_id = ?', values: [gaugeId] }]),
    ...(taken === undefined ? [] : [{ sql: `s.reading_id IS ${taken === 'yes' ? 'NOT ' : ''}NULL`, values: [] }]),
  ]
}
