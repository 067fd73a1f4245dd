import { CoreError, type Facts } from '@nemawashi/core'
import { errorCatalogue, type ErrorCode, type ErrorReply } from '@nemawashi/contract'
import { errorCode, storageCause } from './storage'

/** A refusal by the server: a code of the catalogue, a sentence that says what was received, and the facts. */
export class ServerError extends Error {
  override readonly name = 'ServerError'
  constructor(
    readonly code: ErrorCode,
    message: string,
    readonly facts: Facts = {},
  ) {
    super(message)
  }
}

/** The refusal of a change that the storage would not take; null for an error that has nothing to do with it. */
export function storageFailure(error: unknown): ServerError | null {
  const cause = storageCause(error)
  return cause === null ? null : new ServerError('storage_failed', `Nothing can be stored now: ${cause}.`, { cause })
}

interface BodyParserError {
  readonly type?: string
  readonly status?: number
}

/** What an error of any layer looks like on the wire. What nobody foresaw becomes `internal`, without its inner words. */
export function errorReply(error: unknown, reference: string): { status: number; body: ErrorReply; isForeseen: boolean } {
  const known =
    error instanceof ServerError || error instanceof CoreError ? error : (storageFailure(error) ?? fromDatabase(error) ?? fromBodyParser(error))
  const found = known ?? new ServerError('internal', `Something went wrong here (reference ${reference}).`, { reference })
  const { status, help } = errorCatalogue[found.code]
  return { status, body: { error: { code: found.code, message: found.message, help, facts: found.facts } }, isForeseen: known !== null }
}

/** A text that a database server does not take: it holds the character NUL, or half of a character. */
function fromDatabase(error: unknown): ServerError | null {
  if (errorCode(error) !== '22021') return null
  return new ServerError('input_invalid', 'A text holds a character that cannot be kept.', {})
}

function fromBodyParser(error: unknown): ServerError | null {
  const { type, status } = error as BodyParserError
  if (type === 'entity.too.large') return new ServerError('body_too_large', 'The request is larger than it may be here.')
  if (type === 'encoding.unsupported') return new ServerError('json_invalid', 'The body is packed. Send it as it is, without Content-Encoding.')
  if (type !== undefined && status !== undefined && status < 500) return new ServerError('json_invalid', 'The body is not valid JSON.')
  if (error instanceof URIError) return new ServerError('input_invalid', 'The address holds a broken % sequence.')
  return null
}
