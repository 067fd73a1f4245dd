import { EntitySchema } from 'typeorm'
import { int, json, maybeText, text } from './columns'

export interface AuditRow {
  seq: number
  at: string
  personId: string | null
  action: string
  subject: string
  subjectId: string
  before: string | null
  after: string | null
  why: string | null
  previousHash: string
  hash: string
  /** Digits of the rows that the change wrote, as JSON; on the last entry of a change. */
  rows: string | null
}

/** The audit chain: every change, each row holding the hash of the one before. */
export const AuditEntity = new EntitySchema<AuditRow>({
  name: 'audit',
  columns: {
    seq: { type: 'integer', primary: true, generated: 'increment' },
    at: text,
    personId: maybeText,
    action: text,
    subject: text,
    subjectId: text,
    before: maybeText,
    after: maybeText,
    why: maybeText,
    previousHash: text,
    hash: text,
    rows: maybeText,
  },
  indices: [
    { name: 'audit_subject', columns: ['subjectId', 'seq'] },
    { name: 'audit_at', columns: ['at', 'seq'] },
    { name: 'audit_action', columns: ['action', 'seq'] },
    { name: 'audit_why', columns: ['why'], where: '"why" IS NOT NULL' },
  ],
})

export interface RequestKeyRow {
  key: string
  personId: string
  requestHash: string
  reply: unknown
  at: string
}

/** First answers of requests that carried an idempotency key. */
export const RequestKeyEntity = new EntitySchema<RequestKeyRow>({
  name: 'request_key',
  columns: { key: { type: 'text', primary: true }, personId: { type: 'text', primary: true }, requestHash: text, reply: json, at: text },
  indices: [{ name: 'request_key_at', columns: ['at'] }],
})

export interface CounterRow {
  name: string
  value: number
}

/** Running numbers of lots, inspections, deliveries and control points. */
export const CounterEntity = new EntitySchema<CounterRow>({
  name: 'counter',
  columns: { name: { type: 'text', primary: true }, value: int },
})

/** Tables that belong to no area. */
export const kernelEntities = [AuditEntity, RequestKeyEntity, CounterEntity]
