import { addressOf, type CallOf, type Endpoint, type ErrorCode, type ErrorReply, type ReplyOf } from '@nemawashi/contract'

/** A refusal, in words for people: what happened, what helps, and the facts. */
export class Failure extends Error {
  override readonly name = 'Failure'
  constructor(
    readonly code: ErrorCode | 'unreachable',
    message: string,
    readonly help: string,
    readonly facts: Readonly<Record<string, unknown>> = {},
  ) {
    super(message)
  }
}

type SignInAgain = () => Promise<void>
let signInAgain: SignInAgain | null = null

/** What is done when the session has ended in the middle of work; the call is repeated afterwards, under the same key. */
export function onSignedOut(handler: SignInAgain): void {
  signInAgain = handler
}

async function send(endpoint: Endpoint, address: string, body: unknown, key: string): Promise<Response> {
  try {
    return await fetch(address, {
      method: endpoint.method,
      headers: { 'content-type': 'application/json', ...(endpoint.method === 'GET' ? {} : { 'idempotency-key': key }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
  } catch {
    throw new Failure('unreachable', 'The server cannot be reached.', 'What you typed is kept. Check the network and try again.')
  }
}

/**
 * Calls an endpoint. A change carries an idempotency key, so that a repeat changes nothing twice.
 * @throws {Failure}
 */
export async function call<E extends Endpoint>(endpoint: E, input: CallOf<E>, key: string = crypto.randomUUID()): Promise<ReplyOf<E>> {
  const address = addressOf(endpoint, input)
  let response = await send(endpoint, address, input.body, key)
  if (response.status === 401 && endpoint.access !== 'anyone' && signInAgain) {
    await signInAgain()
    response = await send(endpoint, address, input.body, key)
  }
  const reply = (await response.json().catch(() => null)) as ReplyOf<E> | ErrorReply | null
  if (response.ok) return reply as ReplyOf<E>
  const error = (reply as ErrorReply | null)?.error
  if (!error) throw new Failure('internal', `The server answered ${response.status}.`, 'Try again.')
  throw new Failure(error.code, error.message, error.help, error.facts)
}

/** Any thrown thing as a failure. */
export function asFailure(error: unknown): Failure {
  return error instanceof Failure ? error : new Failure('internal', error instanceof Error ? error.message : String(error), 'Try again.')
}
