import { CoreError, type Facts } from '@nemawashi/core'
import { errorCatalogue, type ErrorCode, type ErrorReply } from '@nemawashi/contract'

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

interface BodyParserError {
  readonly type?: string
  readonly status?: number
}

/** What an error of any layer looks like on the wire. What nobody foresaw becomes `internal`, without its inner words. */
export function errorReply(error: unknown, reference: string): { status: number; body: ErrorReply; isForeseen: boolean } {
  const known = error instanceof ServerError || error instanceof CoreError ? error : fromBodyParser(error)
  const found = known ?? new ServerError('internal', `Something went wrong here (reference ${reference}).`, { reference })
  const { status, help } = errorCatalogue[found.code]
  return { status, body: { error: { code: found.code, message: found.message, help, facts: found.facts } }, isForeseen: known !== null }
}

function fromBodyParser(error: unknown): ServerError | null {
  const { type, status } = error as BodyParserError
  if (type === 'entity.too.large') return new ServerError('body_too_large', 'The request is larger than 512 kB.')
  if (type !== undefined && status !== undefined && status < 500) return new ServerError('json_invalid', 'The body is not valid JSON.')
  if (error instanceof URIError) return new ServerError('input_invalid', 'The address holds a broken % sequence.')
  return null
}
