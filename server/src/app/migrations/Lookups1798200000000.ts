import { AddIndices } from './addIndices'

/** What lists and pages look up in tables that grow: the same in a file and on a server. Where most rows hold nothing, only the others are in it. */
export class Lookups1798200000000 extends AddIndices {
  protected readonly indices = {
    inspection_occasion: '"inspection" ("occasion_id")',
    inspection_point: '"inspection" ("control_point_id")',
    inspection_revision: '"inspection" ("plan_revision_id")',
    inspection_verdict: '"inspection" ("verdict", "finished_at") WHERE "verdict" IS NOT NULL',
    inspection_due: '"inspection" ("due_at") WHERE "due_at" IS NOT NULL',
    lot_supplier_lot: `"lot" ("supplier_lot") WHERE "supplier_lot" <> ''`,
    container_serial: '"container" ("serial") WHERE "serial" IS NOT NULL',
    movement_container: '"movement" ("container_id") WHERE "container_id" IS NOT NULL',
    movement_occasion: '"movement" ("occasion_id") WHERE "occasion_id" IS NOT NULL',
    movement_decision: '"movement" ("decision_id") WHERE "decision_id" IS NOT NULL',
    movement_hold: '"movement" ("hold_id") WHERE "hold_id" IS NOT NULL',
    told_inspection: '"told" ("inspection_id")',
    session_person: '"session" ("person_id")',
  }
}
