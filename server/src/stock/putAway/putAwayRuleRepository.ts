import type { PutAwayRule } from '@nemawashi/contract'
import type { PlacePurpose, Standing } from '@nemawashi/core'
import type { Reader } from '../../kernel/work/database'
import { sublotCode } from '../ledger/repository'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

const putAwayRuleColumns: Columns<PutAwayRule> = {
  name: 'text',
  partId: 'text?',
  familyId: 'text?',
  supplierId: 'text?',
  standing: 'text?',
  moment: 'text',
  fromPlaceId: 'text?',
  toPlaceId: 'text',
  id: 'text',
  partCode: 'text?',
  partFamilyId: 'text?',
  familyName: 'text?',
  supplierName: 'text?',
  fromPlaceName: 'text?',
  toPlaceName: 'text',
  toPurpose: 'text',
}

/** The rules in force, in the order in which they are asked, with the names of what they are about. */
export async function rulesInForce(reader: Reader): Promise<PutAwayRule[]> {
  return rowsOf<PutAwayRule>(
    reader,
    putAwayRuleColumns,
    `SELECT r.id, r.name, r.part_id, r.family_id, r.supplier_id, r.standing, r.moment, r.from_place_id, r.to_place_id, t.code AS part_code,
       t.family_id AS part_family_id, f.name AS family_name, s.name AS supplier_name, a.name AS from_place_name, b.name AS to_place_name, b.purpose AS to_purpose
     FROM put_away_rule r JOIN place b ON b.id = r.to_place_id LEFT JOIN place a ON a.id = r.from_place_id LEFT JOIN part t ON t.id = r.part_id
     LEFT JOIN family f ON f.id = r.family_id LEFT JOIN partner s ON s.id = r.supplier_id WHERE r.state = 'active' ORDER BY r.position`,
    [],
  )
}

/** The version of the whole list: the highest that any rule ever had; 0 where there never was one. */
export async function versionOfRules(reader: Reader): Promise<number> {
  const [row] = await rowsOf(reader, { version: 'number?' }, 'SELECT MAX(version) AS version FROM put_away_rule', [])
  return row?.version ?? 0
}

/** Pieces that are somewhere in the plant, as the rules see them. */
export interface LyingRow {
  readonly lotId: string
  readonly lotCode: string
  readonly partId: string
  readonly familyId: string | null
  readonly supplierId: string | null
  readonly partCode: string
  readonly partName: string
  readonly unit: 'piece'
  readonly containerId: string | null
  readonly containerLabel: string | null
  readonly placeId: string
  readonly placeName: string
  readonly purpose: PlacePurpose
  readonly standing: Standing
  /** Which of the lot's pieces they are, and the number of what set them apart. */
  readonly sublot: string
  readonly sublotCode: string | null
  readonly quantity: number
}

const lyingRowColumns: Columns<LyingRow> = {
  lotId: 'text',
  lotCode: 'text',
  partId: 'text',
  familyId: 'text?',
  supplierId: 'text?',
  partCode: 'text',
  partName: 'text',
  unit: 'text',
  containerId: 'text?',
  containerLabel: 'text?',
  placeId: 'text',
  placeName: 'text',
  purpose: 'text',
  standing: 'text',
  sublot: 'text',
  sublotCode: 'text?',
  quantity: 'number',
}

/** Everything that lies where it could be moved from, those that came there first at the top. */
export async function lyingAnywhere(reader: Reader): Promise<LyingRow[]> {
  return rowsOf<LyingRow>(
    reader,
    lyingRowColumns,
    `SELECT b.lot_id, l.code AS lot_code, l.part_id, t.family_id, l.supplier_id, t.code AS part_code, t.name AS part_name, t.unit,
       CASE b.container_id WHEN '' THEN NULL ELSE b.container_id END AS container_id, c.label AS container_label, b.place_id, p.name AS place_name, p.purpose, b.standing, b.sublot, ${sublotCode} AS sublot_code, b.quantity
     FROM balance b JOIN lot l ON l.id = b.lot_id JOIN part t ON t.id = l.part_id JOIN place p ON p.id = b.place_id LEFT JOIN container c ON c.id = b.container_id
     WHERE b.quantity > 0 AND b.standing IN ('released', 'onHold', 'quarantined', 'inRework', 'rejected') AND p.purpose IN ('dock', 'inspection', 'store', 'quarantine')
     ORDER BY b.since_seq`,
    [],
  )
}
