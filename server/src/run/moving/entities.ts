import type { Standing } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { int, mayReference, references, text, uniqueText } from '../../kernel/database/columns'

export interface TransferRow {
  id: string
  code: string
  lotId: string
  containerId: string | null
  quantity: number
  standing: Standing
  /** The rule that sent it there; null where a person chose the place. */
  ruleId: string | null
}

/** What an occasion has in addition when pieces are taken from one place to another. */
export const TransferEntity = new EntitySchema<TransferRow>({
  name: 'transfer',
  columns: {
    id: { type: 'text', primary: true, foreignKey: { target: 'occasion' } },
    code: uniqueText,
    lotId: references('lot'),
    containerId: mayReference('container'),
    quantity: int,
    standing: text,
    ruleId: mayReference('put_away_rule'),
  },
  indices: [{ name: 'transfer_lot', columns: ['lotId'] }],
})
