import type { Endpoint } from './endpoint'
import type { ErrorReply } from './errors'
import { addressOf, type CallOf, type ReplyOf } from './request'

/** A refusal that the API answered with. */
export class ApiError extends Error {
  override readonly name = 'ApiError'
  constructor(
    readonly status: number,
    readonly reply: ErrorReply['error'],
    readonly address: string,
  ) {
    super(`${address}: ${status} ${reply.code}: ${reply.message}`)
  }
}

/** One person's calls to the API, signed in over it as a page does: for scripts, the demo, benchmarks and tests. */
export class ApiClient {
  /** @param cookie a session that was begun elsewhere, by another client or at another process */
  constructor(
    private readonly base: string,
    private cookie = '',
  ) {}

  /** The session as a request header, for addresses that answer with files. */
  get cookies(): string {
    return this.cookie
  }

  async call<E extends Endpoint>(endpoint: E, call: CallOf<E>, key?: string): Promise<ReplyOf<E>> {
    const address = addressOf(endpoint, call)
    const send = () =>
      fetch(`${this.base}${address}`, {
        method: endpoint.method,
        headers: { 'content-type': 'application/json', cookie: this.cookie, ...(key === undefined ? {} : { 'idempotency-key': key }) },
        ...(call.body === undefined ? {} : { body: JSON.stringify(call.body) }),
      })
    // A connection that was kept may have been closed meanwhile: a question is asked once more, a change only by whoever has its key.
    const response = await (endpoint.method === 'GET' ? send().catch(send) : send())
    const set = response.headers.get('set-cookie')
    if (set !== null) this.cookie = set.split(';')[0] ?? ''
    const reply = (await response.json()) as ReplyOf<E> | ErrorReply
    if (!response.ok) throw new ApiError(response.status, (reply as ErrorReply).error, `${endpoint.method} ${address}`)
    return reply as ReplyOf<E>
  }
}
