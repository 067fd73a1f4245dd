import { createHash } from 'node:crypto'
import type { Reader, Store } from './database'
import type { RequestKeyRow } from '../database/entities'
import { ServerError } from '../base/serverError'
import { rowsOf } from '../database/rowsOf'

/** A request as it is known again: who sent it, under which idempotency key, and what it was. */
export interface RememberedRequest {
  readonly personId: string | null
  readonly key: string | null
  /** What the key stands for: address and body. */
  readonly content: string
  /** The answer holds a secret: it is not kept. */
  readonly isShownOnce?: boolean
}

const hashOfContent = (content: string) => createHash('sha256').update(content).digest('hex')

/** What was answered to this request before, under its key; null when it is new. @throws {ServerError} `key_reused`. */
export async function firstAnswer<T>(reader: Pick<Reader, 'query'>, { key, personId, content }: RememberedRequest): Promise<{ reply: T } | null> {
  if (key === null) return null
  const [row] = await rowsOf<Pick<RequestKeyRow, 'requestHash'> & { reply: string }>(
    reader,
    { requestHash: 'text', reply: 'text' },
    'SELECT request_hash, reply FROM request_key WHERE "key" = ? AND person_id = ?',
    [key, personId ?? ''],
  )
  if (!row) return null
  if (row.requestHash !== hashOfContent(content))
    throw new ServerError('key_reused', `The Idempotency-Key "${key}" was used for another request.`, { key })
  const reply = JSON.parse(row.reply) as T | null
  if (reply === null)
    throw new ServerError(
      'key_reused',
      `This was done already under "${key}". Its answer held a secret, which is shown once and kept nowhere: give another one.`,
      { key },
    )
  return { reply }
}

/** Keeps what was answered, for when the same is asked again; nothing without a key. */
export async function rememberAnswer(
  writer: Pick<Store, 'query'>,
  { key, personId, content, isShownOnce }: RememberedRequest,
  reply: unknown,
  at: string,
): Promise<void> {
  if (key === null) return
  await writer.query('INSERT INTO request_key ("key", person_id, request_hash, reply, at) VALUES (?,?,?,?,?)', [
    key,
    personId ?? '',
    hashOfContent(content),
    isShownOnce === true ? 'null' : JSON.stringify(reply),
    at,
  ])
}
