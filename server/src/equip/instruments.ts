import { createHash, randomBytes } from 'node:crypto'
import { CoreError, isDoublePress, parseDecimal, unitOf, type Sent } from '@nemawashi/core'
import type { BenchEvents, ErrorCode, SentAnswer, SentValue } from '@nemawashi/contract'
import { knownUnits } from '../define/masters/measureUnits'
import { errorReply, ServerError } from '../kernel/base/serverError'
import type { PageFacts } from '../kernel/http/openPages'
import type { Kernel } from '../kernel/kernel'
import type { Work } from '../kernel/work/unitOfWork'
import { InstrumentEntity, SentValueEntity, type SentValueRow } from './instrumentEntities'
import { gaugeOfKey, sentBefore, sentLast } from './instrumentRepository'
import { gaugeRows } from './rows'

export const hashOfKey = (key: string): string => createHash('sha256').update(key).digest('hex')
/** The topic of an instrument, which the page holds that listens to it. */
const topicStart = 'gauge '
export const topicOf = (gaugeId: string): string => topicStart + gaugeId
/** Whose topic it is. */
export const gaugeOf = (topic: string): string => topic.slice(topicStart.length)

/** Gives a gauge the key with which it sends, in the place of the one that it had. @throws {ServerError} `not_found`, `gauge_unfit` of one that is retired. */
export async function giveInstrumentKey(work: Work, gaugeId: string): Promise<string> {
  const gauge = await gaugeRows.find(work.manager, { id: gaugeId })
  if (!gauge) throw new ServerError('not_found', `There is no gauge with the id ${gaugeId}.`)
  if (gauge.state === 'retired') throw new ServerError('gauge_unfit', `${gauge.code} is retired: ${gauge.stateReason}.`, { gauge: gauge.code })
  const key = randomBytes(24).toString('base64url')
  await work.manager.delete(InstrumentEntity, { gaugeId })
  await work.manager.insert(InstrumentEntity, {
    id: work.newId(),
    gaugeId,
    keyHash: hashOfKey(key),
    givenAt: work.now,
    givenById: work.personId ?? '',
  })
  work.audit({ action: 'key given', subject: 'gauge', subjectId: gaugeId })
  return key
}

/** Ends the key of a gauge. */
export async function endInstrumentKey(work: Work, gaugeId: string): Promise<void> {
  const had = await work.manager.countBy(InstrumentEntity, { gaugeId })
  if (had === 0) return work.nothingChanged()
  await work.manager.delete(InstrumentEntity, { gaugeId })
  work.audit({ action: 'key ended', subject: 'gauge', subjectId: gaugeId })
}

/** An instrument that showed its key. */
export interface Caller {
  readonly gaugeId: string
  readonly code: string
  readonly keyHash: string
}

/** Whose key it is. @throws {ServerError} `instrument_unknown`. */
export async function callerOf({ database }: Pick<Kernel, 'database'>, key: string): Promise<Caller> {
  const keyHash = hashOfKey(key)
  const gaugeId = await gaugeOfKey(database.reader, keyHash)
  const gauge = gaugeId === null ? null : await gaugeRows.find(database.reader, { id: gaugeId })
  if (!gauge) throw new ServerError('instrument_unknown', 'No gauge of the register has this key.')
  return { gaugeId: gauge.id, code: gauge.code, keyHash }
}

/**
 * Keeps a value that an instrument sent, whole or not at all; one that came before is answered and changes nothing.
 * @param listener the bench that hears it
 * @throws {CoreError} `not_a_number`, `number_too_long`, `unit_unknown`; {ServerError} `instrument_unknown` where its key was ended, `gauge_unfit`, `key_reused`.
 */
async function keepSent(
  work: Work,
  caller: Caller,
  sent: Sent,
  listener: PageFacts | null,
): Promise<{ row: SentValueRow; unit: string; isKnown: boolean }> {
  const { manager, now } = work
  const { gaugeId } = caller
  if ((await gaugeOfKey(manager, caller.keyHash)) !== gaugeId) throw new ServerError('instrument_unknown', `The key of ${caller.code} was ended.`)
  const value = parseDecimal(sent.value)
  const gauge = await gaugeRows.find(manager, { id: gaugeId })
  const unit = sent.unit || (gauge?.unit ?? '')
  const before = await sentBefore(manager, gaugeId, sent.sendId)
  if (before) {
    if (before.value !== value || before.unit !== sent.unit)
      throw new ServerError('key_reused', `${caller.code} has sent ${before.value} ${before.unit} under ${sent.sendId} already.`, {
        received: `${value} ${sent.unit}`,
      })
    work.nothingChanged()
    return { row: before, unit, isKnown: true }
  }
  if (gauge?.state !== 'inUse')
    throw new ServerError('gauge_unfit', `${caller.code} is ${gauge?.state ?? 'gone'}: ${gauge?.stateReason ?? ''}.`, {
      gauge: caller.code,
      objections: [{ kind: gauge?.state ?? 'retired' }],
      isWaivable: false,
    })
  if (sent.unit !== '') unitOf(sent.unit, await knownUnits(manager))
  const pressedAtMs = Date.parse(now) - sent.ageMs
  const last = await sentLast(manager, gaugeId)
  const isDoubled = last !== null && isDoublePress({ ...last, atMs: Date.parse(last.pressedAt) }, { value, unit: sent.unit, atMs: pressedAtMs })
  const heard = isDoubled ? null : listener
  const row: SentValueRow = {
    id: work.newId(),
    gaugeId,
    sendId: sent.sendId,
    value,
    unit: sent.unit,
    pressedAt: new Date(pressedAtMs).toISOString(),
    receivedAt: now,
    outcome: isDoubled ? 'doubled' : heard ? 'heard' : 'unheard',
    inspectionId: heard?.['inspectionId'] ?? null,
    personId: heard?.['personId'] ?? null,
    readingId: null,
  }
  await manager.insert(SentValueEntity, row)
  work.audit({ action: 'sent', subject: 'gauge', subjectId: gaugeId, after: { sendId: sent.sendId, value, unit: sent.unit } })
  return { row, unit, isKnown: false }
}

/** A refusal as an instrument and a bench are told of it. */
function refusalOf(error: unknown): { code: ErrorCode; message: string } {
  const { body } = errorReply(error, '')
  return { code: body.error.code, message: body.error.message }
}

/**
 * Takes what an instrument sends, each value by itself and in order, and tells the bench that listens: a value goes to one bench, that of the page
 * which took the instrument last. Without values it is a sign of life.
 */
export async function takeSent(
  kernel: Pick<Kernel, 'work' | 'openPages' | 'clock' | 'log'>,
  caller: Caller,
  values: readonly Sent[],
): Promise<SentAnswer[]> {
  const { work, openPages, clock, log } = kernel
  const topic = topicOf(caller.gaugeId)
  const heardAt = clock.now().toISOString()
  openPages.note(topic, heardAt, 'alive', { gaugeId: caller.gaugeId, agoMs: 0 } satisfies BenchEvents['alive'])
  const answers: SentAnswer[] = []
  for (const sent of values) {
    const page = openPages.holderOf(topic)
    try {
      const { row, unit, isKnown } = await work.run({ personId: null, key: null, content: '' }, (inside) =>
        keepSent(inside, caller, sent, page?.facts ?? null),
      )
      if (!isKnown && page !== null && row.outcome === 'heard')
        openPages.tell(page.pageId, 'value', {
          id: row.id,
          gaugeId: row.gaugeId,
          value: row.value,
          unit,
          ageMs: sent.ageMs,
        } satisfies SentValue)
      // One that came before was heard where it was, and not where the instrument is heard now.
      const inspectionCode = !isKnown && row.outcome === 'heard' ? (page?.facts['inspectionCode'] ?? null) : null
      answers.push({ sendId: sent.sendId, outcome: isKnown ? 'known' : row.outcome, inspectionCode, code: null, message: '' })
    } catch (error) {
      if (!(error instanceof CoreError || error instanceof ServerError)) log.error({ err: error }, 'a value of an instrument was not kept')
      const refusal = refusalOf(error)
      if (page) openPages.tell(page.pageId, 'refused', { gaugeId: caller.gaugeId, ...refusal } satisfies BenchEvents['refused'])
      answers.push({ sendId: sent.sendId, outcome: 'refused', inspectionCode: null, ...refusal })
    }
  }
  return answers
}
