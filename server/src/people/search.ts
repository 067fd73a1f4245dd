import type { SearchHit } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'

const sources: readonly { kind: string; sql: string }[] = [
  {
    kind: 'part',
    sql: `SELECT id, code AS title, name AS detail FROM part WHERE code LIKE ? ESCAPE '\\' OR name LIKE ? ESCAPE '\\' ORDER BY code LIMIT 6`,
  },
  {
    kind: 'lot',
    sql: `SELECT l.id, l.code AS title, p.code || ' · supplier lot ' || l.supplierLot AS detail FROM lot l JOIN part p ON p.id = l.partId
          WHERE l.code LIKE ? ESCAPE '\\' OR l.supplierLot LIKE ? ESCAPE '\\' ORDER BY l.receivedAt DESC LIMIT 6`,
  },
  {
    kind: 'inspection',
    sql: `SELECT i.id, i.code AS title, pl.name || ' · lot ' || l.code AS detail FROM inspection i JOIN lot l ON l.id = i.lotId
          JOIN plan_revision r ON r.id = i.planRevisionId JOIN plan pl ON pl.id = r.planId
          WHERE i.code LIKE ? ESCAPE '\\' OR pl.name LIKE ? ESCAPE '\\' ORDER BY i.openedAt DESC LIMIT 6`,
  },
  {
    kind: 'delivery',
    sql: `SELECT d.id, d.code AS title, s.name || ' · order ' || d.orderNumber AS detail FROM delivery d JOIN partner s ON s.id = d.supplierId
          WHERE d.code LIKE ? ESCAPE '\\' OR d.orderNumber LIKE ? ESCAPE '\\' ORDER BY d.receivedAt DESC LIMIT 6`,
  },
  {
    kind: 'plan',
    sql: `SELECT id, code AS title, name AS detail FROM plan WHERE code LIKE ? ESCAPE '\\' OR name LIKE ? ESCAPE '\\' ORDER BY code LIMIT 6`,
  },
  {
    kind: 'characteristic',
    sql: `SELECT c.id, c.code AS title, MAX(r.name) AS detail FROM characteristic c JOIN characteristic_revision r ON r.characteristicId = c.id
          WHERE c.code LIKE ? ESCAPE '\\' OR r.name LIKE ? ESCAPE '\\' GROUP BY c.id ORDER BY c.code LIMIT 6`,
  },
  {
    kind: 'person',
    sql: `SELECT id, name AS title, signInName AS detail FROM person WHERE name LIKE ? ESCAPE '\\' OR signInName LIKE ? ESCAPE '\\' ORDER BY name LIMIT 6`,
  },
]

/** Looks the words up everywhere, a few hits of each kind. */
export async function searchAll(reader: Reader, words: string): Promise<SearchHit[]> {
  const pattern = `%${words.replaceAll(/[\\%_]/g, '\\$&')}%`
  const hits: SearchHit[] = []
  for (const { kind, sql } of sources) {
    const rows = (await reader.query(sql, [pattern, pattern])) as Omit<SearchHit, 'kind'>[]
    hits.push(...rows.map((row) => ({ kind, ...row })))
  }
  return hits
}
