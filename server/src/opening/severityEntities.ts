import type { SchemeRule, SeverityState } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, json, maybeText, text } from '../kernel/database/columns'

export interface LineSeverityRow {
  /** The line and its scheme, in one: what the rest of the row says. */
  id: string
  planId: string
  operationId: string
  partId: string
  partnerId: string | null
  characteristicId: string
  /** The rule as it is asked for: its level, AQL, form, counting and switching are one scheme. */
  rule: SchemeRule
  /** Where the switching rules stand after all that was found on it. */
  kept: SeverityState
}
/** Which inspection a line gets, changed with every finding on it: however long its history, nothing of it is forgotten or read again. */
export const LineSeverityEntity = new EntitySchema<LineSeverityRow>({
  name: 'line_severity',
  columns: { id, planId: text, operationId: text, partId: text, partnerId: maybeText, characteristicId: text, rule: json, kept: json },
  indices: [{ name: 'line_severity_history', columns: ['planId', 'operationId', 'partId', 'characteristicId'] }],
})
