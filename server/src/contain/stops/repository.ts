import type { AcceptanceStop, StopHistory } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import type { Filter, ListSpec } from '../../kernel/http/lists'
import { ServerError } from '../../kernel/base/serverError'
import { judgedLots } from '../../opening/severity'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'
import { acceptanceStopRows } from '../../opening/rows'

export const stopList: ListSpec = {
  from: `acceptance_stop a JOIN plan p ON p.id = a.plan_id JOIN operation o ON o.id = a.operation_id JOIN part t ON t.id = a.part_id
         LEFT JOIN partner s ON s.id = a.partner_id JOIN characteristic k ON k.id = a.characteristic_id JOIN inspection i ON i.id = a.inspection_id
         JOIN inspection_line l ON l.inspection_id = i.id JOIN characteristic_revision r ON r.id = l.characteristic_revision_id AND r.characteristic_id = k.id
         LEFT JOIN person e ON e.id = a.ended_by_id`,
  countFrom: 'acceptance_stop a',
  id: 'a.id',
  columns: {
    id: { sql: 'a.id' },
    planId: { sql: 'a.plan_id' },
    planName: { sql: 'p.name' },
    characteristicCode: { sql: 'k.code' },
    characteristicName: { sql: 'r.name' },
    operationName: { sql: 'o.name' },
    partCode: { sql: 't.code' },
    partName: { sql: 't.name' },
    partnerName: { sql: `COALESCE(s.name, '')` },
    inspectionId: { sql: 'i.id' },
    inspectionCode: { sql: 'i.code' },
    at: { sql: 'a.at' },
    endedAs: { sql: 'a.ended_as', isNullable: true },
    endedAt: { sql: 'a.ended_at', isNullable: true },
    endedByName: { sql: 'e.name', isNullable: true },
    reason: { sql: 'a.reason' },
    version: { sql: 'a.version', kind: 'number' },
  },
  search: ['p.name', 't.code', 't.name', 's.name', 'k.code', 'r.name', 'i.code'],
  sort: ['at', 'desc'],
}

export function stopFilters({ state }: { state?: 'standing' | 'ended' | undefined }): Filter[] {
  if (state === undefined) return []
  return [{ sql: state === 'standing' ? 'a.ended_at IS NULL' : 'a.ended_at IS NOT NULL', values: [] }]
}

const acceptanceStopColumns: Columns<AcceptanceStop> = {
  id: 'text',
  planId: 'text',
  planName: 'text',
  characteristicCode: 'text',
  characteristicName: 'text',
  operationName: 'text',
  partCode: 'text',
  partName: 'text',
  partnerName: 'text',
  inspectionId: 'text',
  inspectionCode: 'text',
  at: 'text',
  endedAs: 'text?',
  endedAt: 'text?',
  endedByName: 'text?',
  reason: 'text',
  version: 'number',
}

/** A stop with the names around it, and the lots that bear on it. @throws {ServerError} `not_found`. */
export async function loadStop(reader: Reader, id: string): Promise<StopHistory> {
  const columns = Object.entries(stopList.columns).map(([name, { sql }]) => `${sql} AS "${name}"`)
  const [found] = await rowsOf<AcceptanceStop>(reader, acceptanceStopColumns, `SELECT ${columns.join(', ')} FROM ${stopList.from} WHERE a.id = ?`, [
    id,
  ])
  if (!found) throw new ServerError('not_found', `There is no acceptance stop with the id ${id}.`)
  const row = await acceptanceStopRows.load(reader, id)
  return { ...found, lots: await judgedLots(reader, row) }
}
