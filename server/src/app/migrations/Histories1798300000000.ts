import { AddIndices } from './addIndices'

/** Tables that were read whole: of what was considered, with each inspection that ends; of returns, with each pick that is looked at; of inspections, for the name of who is responsible or whoever began. */
export class Histories1798300000000 extends AddIndices {
  protected readonly indices = {
    consideration_inspection: '"consideration" ("inspection_id") WHERE "inspection_id" IS NOT NULL',
    inspection_responsible: `"inspection" ("responsible") WHERE "responsible" <> ''`,
    inspection_started_by: '"inspection" ("started_by_id") WHERE "started_by_id" IS NOT NULL',
    inspection_operation: '"inspection" ("operation_id")',
    customer_return_pick: '"customer_return" ("pick_id") WHERE "pick_id" IS NOT NULL',
  }
}
