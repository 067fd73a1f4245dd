import type { ErrorCode, FeedKind, FeedState } from '@nemawashi/contract'
import { EntitySchema } from 'typeorm'
import { id, int, json, maybeJson, maybeText, references, text, uniqueText } from '../../kernel/database/columns'

export interface FeedEventRow {
  id: string
  key: string
  kind: FeedKind
  /** What counts: as it was sent, or as somebody mended it; and then what was sent. */
  body: Record<string, unknown>
  sent: Record<string, unknown> | null
  state: FeedState
  /** Why it is kept aside. */
  code: ErrorCode | null
  facts: Record<string, unknown>
  reason: string
  subjectKind: 'purchaseOrder' | 'expected' | 'delivery' | 'order' | 'dispatch' | null
  subjectId: string | null
  subjectCode: string | null
  receivedAt: string
  takenAt: string | null
  personId: string
  version: number
}
/** What another system told, and what became of it. */
export const FeedEventEntity = new EntitySchema<FeedEventRow>({
  name: 'feed_event',
  columns: {
    id,
    key: uniqueText,
    kind: text,
    body: json,
    sent: maybeJson,
    state: text,
    code: maybeText,
    facts: json,
    reason: text,
    subjectKind: maybeText,
    subjectId: maybeText,
    subjectCode: maybeText,
    receivedAt: text,
    takenAt: maybeText,
    personId: references('person'),
    version: int,
  },
  indices: [
    { name: 'feed_event_state', columns: ['state', 'receivedAt', 'id'] },
    { name: 'feed_event_received', columns: ['receivedAt', 'id'] },
  ],
})

export interface NoticeRow {
  id: string
  kind: 'standing' | 'invoiceReleased'
  /** What it is about, by its number, and what is told. */
  about: string
  body: Record<string, unknown>
  at: string
  tries: number
  /** When it is tried next; null once it was delivered. */
  nextAt: string | null
  deliveredAt: string | null
  /** What the other side answered last: its status, or that it did not. */
  lastAnswer: string
}
/** What is told to the other system, until it has said that it knows. */
export const NoticeEntity = new EntitySchema<NoticeRow>({
  name: 'notice',
  columns: {
    id,
    kind: text,
    about: text,
    body: json,
    at: text,
    tries: int,
    nextAt: maybeText,
    deliveredAt: maybeText,
    lastAnswer: text,
  },
  indices: [
    { name: 'notice_next', columns: ['nextAt', 'at'] },
    { name: 'notice_at', columns: ['at', 'id'] },
  ],
})
