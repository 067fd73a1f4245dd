import { v4 } from 'uuid'
import { addressOf, type CallOf, type Endpoint, type ErrorCode, type ErrorReply, type ReplyOf } from '@nemawashi/contract'
import { storageTrouble } from './storage'

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
let personId: () => string | null = () => null

/** A new key for a change. Browsers have a function of their own for it on HTTPS only. */
export const newKey = v4

/** Who the page believes to be signed in: a change is refused by the server when it is somebody else by now. */
export function actingAs(person: () => string | null): void {
  personId = person
}

/** What is done when the session has ended in the middle of work; the call is repeated afterwards, under the same key. */
export function onSignedOut(handler: SignInAgain): void {
  signInAgain = handler
}

interface Sending {
  readonly key?: string
  readonly signal?: AbortSignal
  /** Whose change it is, where that is not the person who is signed in here now. */
  readonly personId?: string
}

async function send(endpoint: Endpoint, address: string, body: unknown, { key = newKey(), signal, personId: as }: Sending): Promise<Response> {
  const who = as ?? personId()
  try {
    return await fetch(address, {
      method: endpoint.method,
      headers: {
        'content-type': 'application/json',
        ...(endpoint.method === 'GET'
          ? {}
          : { 'idempotency-key': key, ...(who === null || endpoint.access === 'anyone' ? {} : { 'x-person': who }) }),
      },
      ...(signal ? { signal } : {}),
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
  } catch (error) {
    if (signal?.aborted) throw error
    throw new Failure('unreachable', 'The server cannot be reached.', 'What you typed is kept. Check the network and try again.')
  }
}

/**
 * Calls an endpoint. A change carries an idempotency key, so that a repeat changes nothing twice.
 * @throws {Failure}
 */
export async function call<E extends Endpoint>(endpoint: E, input: CallOf<E>, sending: Sending = {}): Promise<ReplyOf<E>> {
  return askFor(endpoint, input, sending)
}

/** What a page gives that serves many addresses: which of them, it only knows when it runs. */
interface Given {
  readonly params?: unknown
  readonly query?: unknown
  readonly body?: unknown
}

/** The same for an address that is only known when it runs; what comes back is the caller's to name. @throws {Failure} */
export async function askFor<R>(endpoint: Endpoint, input: Given, sending: Sending = {}): Promise<R> {
  // One key for all its repeats.
  const once = { key: newKey(), ...sending }
  const address = addressOf(endpoint, input)
  let response = await send(endpoint, address, input.body, once)
  if (response.status === 401 && endpoint.access !== 'anyone' && signInAgain) {
    await signInAgain()
    response = await send(endpoint, address, input.body, once)
  }
  const reply: unknown = await response.json().catch(() => null)
  if (response.ok) {
    if (endpoint.method !== 'GET') storageTrouble.value = null
    return reply as R
  }
  const error = (reply as ErrorReply | null)?.error
  if (error?.code === 'storage_failed' || error?.code === 'storage_busy') storageTrouble.value = error.message
  if (!error) throw new Failure('internal', `The server answered ${response.status}.`, 'Try again.')
  throw new Failure(error.code, error.message, error.help, error.facts)
}

/** Any thrown thing as a failure. */
export function asFailure(error: unknown): Failure {
  return error instanceof Failure ? error : new Failure('internal', error instanceof Error ? error.message : String(error), 'Try again.')
}
