import { v4 } from 'uuid'
import { addressOf, type CallOf, type Endpoint, type ErrorCode, type ErrorReply, type ReplyOf } from '@nemawashi/contract'
import { isAttended } from './attended'
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

/** @param isOld whether the session goes on, and only what was asked for wants a newer sign-in */
type SignInAgain = (isOld: boolean) => Promise<void>
let signInAgain: SignInAgain | null = null
let askedFirst: (() => void) | null = null
let personId: () => string | null = () => null

/**
 * Keys of changes that nobody answered, by what was asked: whoever asks the same again asks it under the same key, so that what did arrive is
 * not done twice. A gateway's answer is none of the server's.
 */
const unanswered = new Map<string, string>()

/** A new key for a change. Browsers have a function of their own for it on HTTPS only. */
export const newKey = v4

/** Who the page believes to be signed in: a change is refused by the server when it is somebody else by now. */
export function actingAs(person: () => string | null): void {
  personId = person
}

/** What is done when the session has ended in the middle of work, or is too old for it; the call is repeated afterwards, under the same key. */
export function onSignedOut(handler: SignInAgain): void {
  signInAgain = handler
}

/** What is done when something has to come first: the page asks for it. */
export function onOwing(handler: () => void): void {
  askedFirst = handler
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
        ...(isAttended() ? {} : { 'x-unattended': '1' }),
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
  const address = addressOf(endpoint, input)
  const isRemembered = endpoint.method !== 'GET' && sending.key === undefined && !endpoint.secrets?.length
  const content = !isRemembered ? '' : `${sending.personId ?? personId() ?? ''} ${endpoint.method} ${address} ${JSON.stringify(input.body)}`
  // One key for all its repeats.
  const once = { key: unanswered.get(content) ?? newKey(), ...sending }
  if (isRemembered) unanswered.set(content, once.key)
  let response = await send(endpoint, address, input.body, once)
  if (response.status === 401 && endpoint.access !== 'anyone' && signInAgain) {
    const refusal = (await response.json().catch(() => null)) as Partial<ErrorReply> | null
    await signInAgain(refusal?.error?.code === 'sign_in_old')
    response = await send(endpoint, address, input.body, once)
  }
  const reply: unknown = await response.json().catch(() => null)
  const error = (reply as Partial<ErrorReply> | null)?.error
  if (reply === null || (!response.ok && !error?.code)) throw noAnswer(response.status)
  unanswered.delete(content)
  if (response.ok) {
    if (endpoint.method !== 'GET') storageTrouble.value = null
    return reply as R
  }
  const { code, message, help, facts } = error as ErrorReply['error']
  if (code === 'password_first' || code === 'second_factor_first') askedFirst?.()
  if (code === 'storage_failed' || code === 'storage_busy') storageTrouble.value = message
  throw new Failure(code, message, help, facts)
}

/** Something between here and the server answered, or what the server said was cut off: nobody knows whether it was done. */
function noAnswer(status: number): Failure {
  return new Failure(
    'unreachable',
    `The server did not answer (${status}).`,
    'What you typed is kept. Try again: what was done already is not done twice.',
  )
}

/** Any thrown thing as a failure. */
export function asFailure(error: unknown): Failure {
  return error instanceof Failure ? error : new Failure('internal', error instanceof Error ? error.message : String(error), 'Try again.')
}
