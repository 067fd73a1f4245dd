import type { Filter, ListSpec } from '../../kernel/http/lists'

export const notificationList: ListSpec = {
  from: `told d JOIN inspection i ON i.id = d.inspection_id JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id
    LEFT JOIN lot l ON l.id = i.lot_id LEFT JOIN part t ON t.id = l.part_id`,
  id: 'd.id',
  columns: {
    id: { sql: 'd.id' },
    inspectionId: { sql: 'i.id' },
    code: { sql: 'i.code' },
    planName: { sql: 'p.name' },
    partName: { sql: `COALESCE(t.name, 'a load')` },
    lotCode: { sql: `COALESCE(l.code, '')` },
    advice: { sql: `COALESCE(json_extract(i.consequence, '$.advice'), '')` },
    at: { sql: 'd.at' },
  },
  search: ['i.code', 'p.name', 'l.code'],
  sort: ['at', 'desc'],
}

/** What somebody was told and has not seen. */
export const unreadBy = (personId: string): Filter[] => [{ sql: 'd.person_id = ? AND d.seen_at IS NULL', values: [personId] }]
