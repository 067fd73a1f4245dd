import { maxSerials } from '@nemawashi/core'
import { z } from 'zod'
import { ById, endpoint, Id, Instant, listEndpoint, Version, words } from '../wire/endpoint'
import { errorCodes } from '../wire/errors'
import { clerk } from '../wire/access'
import { ContainerInput, LoadFacts } from './deliveryInput'

/*
 * What another system tells of: what was ordered and announced, deliveries that came, orders, what was confirmed, what is to be picked and what
 * was. It knows things by their codes, and quantities in the unit of the part.
 */

const Code = words(40)
const Short = words(60)
/** Another system tells quantities in the unit itself: 250.5 of a part that is counted in `0.01 kg`. */
const Quantity = z.number('write a number').describe('In the unit of the part, with its decimals')
const Container = ContainerInput.extend({ quantity: Quantity })

export const feedKinds = ['purchaseOrder', 'announcement', 'delivery', 'order', 'confirmation', 'plannedDispatch', 'dispatch'] as const
export type FeedKind = (typeof feedKinds)[number]

/** What each kind of event says. Parts, partners, operations, places and lots are named by their codes, an order by its number there. */
export const FeedBodies = {
  purchaseOrder: z.strictObject({
    supplier: Code,
    number: Short,
    contract: z.string().trim().max(60).default(''),
    lines: z
      .array(z.strictObject({ part: Code, quantity: Quantity, dueOn: z.iso.date().nullable().default(null) }))
      .min(1, 'enter at least one line')
      .max(200, 'at most 200 lines'),
  }),
  announcement: z.strictObject({
    supplier: Code,
    orderNumber: Short,
    expectedOn: z.iso.date().nullable().default(null),
    load: LoadFacts.optional(),
    lines: z
      .array(z.strictObject({ part: Code, quantity: Quantity, supplierLot: z.string().trim().max(60).default('') }))
      .min(1, 'enter at least one line')
      .max(500, 'at most 500 lines'),
  }),
  delivery: z.strictObject({
    supplier: Code,
    orderNumber: Short,
    /** The key of the event that announced it; null where none did. */
    announcedAs: words(80).nullable().default(null),
    load: LoadFacts.optional(),
    lines: z
      .array(
        z.strictObject({
          part: Code,
          supplierLot: Short,
          quantity: Quantity,
          containers: z.array(Container).max(200).default([]),
          serials: z.array(Short).max(maxSerials).default([]),
        }),
      )
      .min(1, 'enter at least one line')
      .max(500, 'at most 500 lines'),
  }),
  order: z.strictObject({ number: Short, part: Code, quantity: Quantity, customer: Code.nullable().default(null) }),
  confirmation: z.strictObject({
    order: Short,
    operation: Code,
    good: Quantity,
    scrapped: Quantity.default(0),
    setAside: Quantity.default(0),
    /** Where pieces have serial numbers: those of the ones that are lost. */
    scrappedSerials: z.array(Short).max(maxSerials).optional(),
    setAsideSerials: z.array(Short).max(maxSerials).optional(),
  }),
  plannedDispatch: z.strictObject({
    customer: Code,
    orderNumber: Short,
    leavesOn: z.iso.date().nullable().default(null),
    lines: z
      .array(z.strictObject({ part: Code, quantity: Quantity }))
      .min(1, 'plan at least one part')
      .max(100, 'at most 100 parts'),
  }),
  dispatch: z.strictObject({
    customer: Code,
    orderNumber: Short,
    /** The key of the event that planned it; null where none did. */
    plannedAs: words(80).nullable().default(null),
    picks: z
      .array(z.strictObject({ lot: Code, container: Code.nullable().default(null), place: Code, quantity: Quantity }))
      .min(1)
      .max(200),
  }),
} as const satisfies Record<FeedKind, z.ZodType>

export const FeedEventInput = z.strictObject({
  /** What the sender calls this event: sent again under its key it changes nothing. */
  key: words(80),
  kind: z.enum(feedKinds),
  body: z.record(z.string(), z.unknown()),
})
export type FeedEventInput = z.infer<typeof FeedEventInput>

export const feedStates = ['taken', 'aside', 'dismissed'] as const
export type FeedState = (typeof feedStates)[number]

/** What became of an event: done, done before, or kept aside because of something that has to be mended. */
export const FeedAnswer = z.strictObject({
  key: z.string(),
  /** Known: it was taken before. Refused: another event was taken under its key; nothing of this one is kept. */
  state: z.enum(['taken', 'known', 'aside', 'refused']),
  /** What came of it, by its number; null while it is aside. */
  subjectCode: z.string().nullable(),
  code: z.enum(errorCodes).nullable(),
  message: z.string().nullable(),
})
export type FeedAnswer = z.infer<typeof FeedAnswer>

export const FeedRow = z.strictObject({
  id: Id,
  key: z.string(),
  kind: z.enum(feedKinds),
  state: z.enum(feedStates),
  receivedAt: Instant,
  takenAt: Instant.nullable(),
  subjectKind: z.enum(['purchaseOrder', 'expected', 'delivery', 'order', 'dispatch']).nullable(),
  subjectId: Id.nullable(),
  subjectCode: z.string().nullable(),
  /** Why it is kept aside. */
  code: z.enum(errorCodes).nullable(),
  version: Version,
})
export type FeedRow = z.infer<typeof FeedRow>
export const FeedEvent = FeedRow.extend({
  body: z.record(z.string(), z.unknown()),
  /** As it was sent, where somebody mended it; null where nobody did. */
  sent: z.record(z.string(), z.unknown()).nullable(),
  facts: z.record(z.string(), z.unknown()),
  reason: z.string(),
})
export type FeedEvent = z.infer<typeof FeedEvent>

export const NoticeRow = z.strictObject({
  id: Id,
  kind: z.enum(['standing', 'invoiceReleased']),
  at: Instant,
  about: z.string(),
  tries: z.int(),
  nextAt: Instant.nullable(),
  deliveredAt: Instant.nullable(),
  lastAnswer: z.string(),
})
export type NoticeRow = z.infer<typeof NoticeRow>

export const feed = {
  sendEvents: endpoint('POST', '/api/v1/feed/events', {
    access: ['orderFeed', 'administrator'],
    summary: 'Tell what happened elsewhere. Each event is taken whole, or kept aside with what is wrong with it; sent again it changes nothing',
    body: z.strictObject({ events: z.array(FeedEventInput).min(1, 'send at least one event').max(200, 'at most 200 events') }),
    reply: z.strictObject({ answers: z.array(FeedAnswer) }),
  }),
  listFeedEvents: listEndpoint('/api/v1/feed/events', 'What another system told, and what became of it, latest first', FeedRow, {
    state: z.enum(feedStates).optional(),
  }),
  getFeedEvent: endpoint('GET', '/api/v1/feed/events/:id', {
    access: 'signedIn',
    summary: 'An event as it was sent, and why it is kept aside',
    params: ById,
    reply: FeedEvent,
  }),
  playAgain: endpoint('POST', '/api/v1/feed/events/:id/again', {
    access: clerk,
    summary: 'Play an event again that was kept aside, as it was sent or mended; what was sent first is kept',
    params: ById,
    body: z.strictObject({ version: Version, body: z.record(z.string(), z.unknown()).nullable().default(null) }),
    reply: FeedEvent,
  }),
  dismissEvent: endpoint('POST', '/api/v1/feed/events/:id/dismiss', {
    access: clerk,
    summary: 'Leave an event out that was kept aside, with a reason',
    params: ById,
    body: z.strictObject({ version: Version, reason: words(500) }),
    reply: FeedEvent,
  }),
  listNotices: listEndpoint('/api/v1/feed/notices', 'What was told to the other system: standings of lots, and invoices that may be paid', NoticeRow),
}
