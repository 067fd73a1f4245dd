import { isDeepStrictEqual } from 'node:util'
import type { FeedAnswer, FeedEvent, FeedEventInput } from '@nemawashi/contract'
import type { CoreError } from '@nemawashi/core'
import type { QueryDeepPartialEntity } from 'typeorm/query-builder/QueryPartialEntity.js'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, saveNext } from '../../kernel/work/versioned'
import { actOn, isRefusal } from './feedActs'
import { FeedEventEntity, type FeedEventRow } from './entities'

type Each = <T>(work: (work: Work) => Promise<T>) => Promise<T>
const words = 'feed event'

export async function loadEvent(reader: Reader, id: string): Promise<FeedEvent> {
  const row = await reader.findOneBy(FeedEventEntity, { id })
  if (!row) throw new ServerError('not_found', `There is no feed event with the id ${id}.`)
  const { personId: _, ...event } = row
  return event
}

const answerOf = ({ key, subjectCode }: Pick<FeedEventRow, 'key' | 'subjectCode'>, state: FeedAnswer['state']): FeedAnswer => ({
  key,
  state,
  subjectCode,
  code: null,
  message: null,
})

/** The first thing in which two bodies differ, both told: `orderNumber "77" then, "78" now`. */
function differenceOf(before: Readonly<Record<string, unknown>>, now: Readonly<Record<string, unknown>>): string {
  const field = [...new Set([...Object.keys(before), ...Object.keys(now)])].find((name) => !isDeepStrictEqual(before[name], now[name])) ?? 'kind'
  const words = (value: unknown) => (JSON.stringify(value) ?? 'nothing').slice(0, 200)
  return `${field} ${words(before[field])} then, ${words(now[field])} now`
}

/** One that is new, or that was kept aside and is sent again: done, and remembered under its key. */
async function take(work: Work, { key, kind, body }: FeedEventInput): Promise<FeedAnswer> {
  const known = await work.manager.findOneBy(FeedEventEntity, { key })
  if (known && known.state !== 'aside') {
    work.nothingChanged()
    // As it was sent first: somebody may have mended it since.
    const isSame = known.kind === kind && isDeepStrictEqual(known.sent ?? known.body, body)
    if (isSame || isDeepStrictEqual(known.body, body)) return answerOf(known, 'known')
    const came = known.subjectCode === null ? 'left out' : `taken as ${known.subjectCode}`
    const message = `The event ${key} was ${came} with other content: ${differenceOf(known.sent ?? known.body, body)}. Nothing of this one was taken.`
    return { ...answerOf(known, 'refused'), code: 'event_differs', message }
  }
  const subject = await actOn(work, kind, body)
  const taken = { ...subject, state: 'taken', takenAt: work.now, code: null, facts: {}, body, kind } as const
  if (known) await saveNext(work, FeedEventEntity, words, 'taken', known, taken)
  else await insert(work, { key, ...taken })
  return answerOf({ key, ...subject }, 'taken')
}

async function insert(
  work: Work,
  row: Pick<FeedEventRow, 'key' | 'kind' | 'body' | 'state' | 'code' | 'facts'> & Partial<FeedEventRow>,
): Promise<void> {
  const blank = { sent: null, reason: '', subjectKind: null, subjectId: null, subjectCode: null, takenAt: null }
  const full: FeedEventRow = { ...blank, ...row, id: work.newId(), receivedAt: work.now, personId: work.personId ?? '', version: 1 }
  await work.manager.insert(FeedEventEntity, full as QueryDeepPartialEntity<FeedEventRow>)
  work.audit({
    action: full.state === 'taken' ? 'taken' : 'kept aside',
    subject: words,
    subjectId: full.id,
    after: { key: full.key, kind: full.kind, code: full.code },
  })
}

/** Keeps what could not be done, with what is wrong with it: never lost, and played again after mending. */
async function keepAside(work: Work, { key, kind, body }: FeedEventInput, { code, facts }: ServerError | CoreError): Promise<void> {
  const known = await work.manager.findOneBy(FeedEventEntity, { key })
  if (known) await saveNext(work, FeedEventEntity, words, 'kept aside', known, { kind, body, code, facts: { ...facts } })
  else await insert(work, { key, kind, body, state: 'aside', code, facts: { ...facts } })
}

/**
 * Takes events in their order, each whole or not at all by itself. What is refused is kept aside and answered with its reason; the ones
 * after it go on. A key that was taken before answers what came of it then, and changes nothing.
 * @throws {ServerError} `storage_failed`, `storage_busy`: what was not answered is sent again.
 */
export async function takeEvents(each: Each, events: readonly FeedEventInput[]): Promise<FeedAnswer[]> {
  const answers: FeedAnswer[] = []
  for (const event of events) {
    try {
      answers.push(await each((work) => take(work, event)))
    } catch (error) {
      if (!isRefusal(error)) throw error
      await each((work) => keepAside(work, event, error))
      answers.push({ key: event.key, state: 'aside', subjectCode: null, code: error.code, message: error.message })
    }
  }
  return answers
}

async function atAside(work: Work, id: string, version: number): Promise<FeedEventRow> {
  const current = await loadAt(work, FeedEventEntity, words, id, version)
  if (current.state !== 'aside') throw new ServerError('event_not_aside', `${current.key} is not kept aside any more.`, { state: current.state })
  return current
}

/** Plays an event again that was kept aside, mended or as it was. It stays aside where it is refused once more, with what is wrong now. */
export async function playAgain(each: Each, id: string, { version, body }: { version: number; body: Record<string, unknown> | null }): Promise<void> {
  try {
    await each(async (work) => {
      const current = await atAside(work, id, version)
      const mended = body ?? current.body
      const subject = await actOn(work, current.kind, mended)
      const sent = body === null ? current.sent : (current.sent ?? current.body)
      await saveNext(work, FeedEventEntity, words, 'taken', current, {
        ...subject,
        body: mended,
        sent,
        state: 'taken',
        takenAt: work.now,
        code: null,
        facts: {},
      })
    })
  } catch (error) {
    if (!isRefusal(error) || (error instanceof ServerError && ['event_not_aside', 'stale_version', 'not_found'].includes(error.code))) throw error
    const { code, facts } = error
    await each(async (work) => {
      const current = await atAside(work, id, version)
      const mended = body === null ? {} : { body, sent: current.sent ?? current.body }
      await saveNext(work, FeedEventEntity, words, 'kept aside', current, { ...mended, code, facts: { ...facts } })
    })
  }
}

export async function dismissEvent(work: Work, id: string, { version, reason }: { version: number; reason: string }): Promise<FeedEvent> {
  const current = await atAside(work, id, version)
  await saveNext(work, FeedEventEntity, words, 'left out', current, { state: 'dismissed', reason }, reason)
  return loadEvent(work.manager, id)
}
