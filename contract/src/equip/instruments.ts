import { z } from 'zod'
import { ById, endpoint, file, Id, Instant, listEndpoint, words } from '../wire/endpoint'
import { errorCodes, type ErrorCode } from '../wire/errors'
import { gaugeKeepers } from './gaugeKeepers'

/** What became of a value that an instrument sent: a bench heard it, no bench listened, or it was the same press once more. */
export const sentOutcomes = ['heard', 'unheard', 'doubled'] as const

/** A value as an instrument sends it. */
export const SentInput = z.strictObject({
  sendId: words(40).describe('The own name of this value at its instrument: one that comes again is known by it'),
  value: z.string().max(60).describe('A decimal number, with a point or a comma'),
  unit: z.string().trim().max(20).default('').describe('Where none is sent, it is that of the register'),
  ageMs: z.int().min(0).max(604_800_000).default(0).describe('Milliseconds since the button was pressed'),
})

/** What became of one value: `known` where it had come before, `refused` with the code. */
export const SentAnswer = z.strictObject({
  sendId: z.string(),
  outcome: z.enum([...sentOutcomes, 'known', 'refused']),
  /** The inspection whose bench heard it. */
  inspectionCode: z.string().nullable(),
  code: z.enum(errorCodes).nullable(),
  message: z.string(),
})
export type SentAnswer = z.infer<typeof SentAnswer>

/** A value as it comes to the bench. */
export const SentValue = z.strictObject({ id: Id, gaugeId: Id, value: z.string(), unit: z.string(), ageMs: z.int() })
export type SentValue = z.infer<typeof SentValue>

/** What is told to an open bench, as server-sent events: the name of the event, and what its data is. */
export interface BenchEvents {
  /** An instrument sent a value. */
  value: SentValue
  /** What it sent was not taken. */
  refused: { gaugeId: string; code: ErrorCode; message: string }
  /** It was heard of so long ago; null where it has gone, or was never there. */
  alive: { gaugeId: string; agoMs: number | null }
  /** Another bench listens to it from now on. */
  replaced: { gaugeId: string; byName: string; inspectionCode: string }
}

/** That a gauge sends its values by itself: since when it has a key, and when it was heard of last. */
export const Instrument = z.strictObject({ givenAt: Instant, givenByName: z.string(), heardAt: Instant.nullable() })
export type Instrument = z.infer<typeof Instrument>

export const SentValueRow = z.strictObject({
  id: Id,
  sendId: z.string(),
  value: z.string(),
  unit: z.string(),
  pressedAt: Instant,
  receivedAt: Instant,
  outcome: z.enum(sentOutcomes),
  inspectionId: Id.nullable(),
  inspectionCode: z.string(),
  /** Whether a reading stands on it. */
  isTaken: z.boolean(),
})
export type SentValueRow = z.infer<typeof SentValueRow>

export const instruments = {
  getInstrument: endpoint('GET', '/api/v1/gauges/:id/instrument', {
    access: 'signedIn',
    summary: 'Whether a gauge sends its values by itself',
    params: ById,
    reply: z.strictObject({ instrument: Instrument.nullable(), hasSent: z.boolean().describe('Whether it ever sent anything') }),
  }),
  giveInstrumentKey: endpoint('POST', '/api/v1/gauges/:id/instrument', {
    access: gaugeKeepers,
    summary: 'Give a gauge a key with which it sends its values, in the place of the one that it had; the key is shown once',
    params: ById,
    reply: z.strictObject({ key: z.string() }),
    isShownOnce: true,
  }),
  endInstrumentKey: endpoint('POST', '/api/v1/gauges/:id/instrument/end', {
    access: gaugeKeepers,
    summary: 'End the key of a gauge: nothing that it sends is taken any more',
    params: ById,
    reply: z.strictObject({}),
  }),
  listSentValues: listEndpoint('/api/v1/sent-values', 'What instruments sent, latest first', SentValueRow, {
    gaugeId: Id.optional().describe('Of which gauge; of all where none is said'),
    taken: z.enum(['yes', 'no']).optional().describe('Whether a reading stands on it'),
  }),
  sendValues: endpoint('POST', '/api/v1/instrument/values', {
    access: 'anyone',
    summary:
      'What an instrument sends, under its key (Authorization: Bearer …): the values that were pressed, or none to say that it is there. A value that comes again is answered as known',
    body: z.strictObject({ values: z.array(SentInput).max(200) }),
    reply: z.strictObject({ gauge: z.string(), answers: z.array(SentAnswer) }),
  }),
  followSentValues: endpoint('GET', '/api/v1/inspections/:id/sent-values', {
    access: 'signedIn',
    summary:
      'What the instruments of an inspection send, as server-sent events (value, refused, alive, replaced); the bench that asked last hears them',
    params: ById,
    reply: file('text/event-stream'),
  }),
}
