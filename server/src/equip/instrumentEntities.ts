import type { sentOutcomes } from '@nemawashi/contract'
import { EntitySchema } from 'typeorm'
import { id, mayReference, references, text, uniqueText } from '../kernel/database/columns'

export interface InstrumentRow {
  id: string
  gaugeId: string
  /** Its key is shown once, and kept as this. */
  keyHash: string
  givenAt: string
  givenById: string
}
/** That a gauge has a key with which it sends its values; gone when the key is ended. */
export const InstrumentEntity = new EntitySchema<InstrumentRow>({
  name: 'instrument',
  columns: { id, gaugeId: references('gauge'), keyHash: uniqueText, givenAt: text, givenById: references('person') },
  uniques: [{ name: 'instrument_gauge', columns: ['gaugeId'] }],
})

export interface SentValueRow {
  id: string
  gaugeId: string
  sendId: string
  value: string
  unit: string
  pressedAt: string
  receivedAt: string
  outcome: (typeof sentOutcomes)[number]
  /** Whose bench heard it. */
  inspectionId: string | null
  personId: string | null
  /** The reading that stands on it: set once. */
  readingId: string | null
}
/** What an instrument sent, as it sent it; it stands for one reading at most. */
export const SentValueEntity = new EntitySchema<SentValueRow>({
  name: 'sent_value',
  columns: {
    id,
    gaugeId: references('gauge'),
    sendId: text,
    value: text,
    unit: text,
    pressedAt: text,
    receivedAt: text,
    outcome: text,
    inspectionId: mayReference('inspection'),
    personId: mayReference('person'),
    readingId: mayReference('reading'),
  },
  uniques: [{ name: 'sent_value_once', columns: ['gaugeId', 'sendId'] }],
  checks: [{ name: 'sent_value_outcome_known', expression: `"outcome" IN ('heard', 'unheard', 'doubled')` }],
  indices: [
    { name: 'sent_value_received', columns: ['gaugeId', 'receivedAt'] },
    { name: 'sent_value_reading', columns: ['readingId'], unique: true, where: '"reading_id" IS NOT NULL' },
  ],
})
