import { createHmac } from 'node:crypto'
import { setImmediate } from 'node:timers/promises'
import type { Access, Endpoint, ListQuery, Owed, Person } from '@nemawashi/contract'
import { mayCall, placeWords, refusalsOf, roleWords, unseenIn, unseenWords } from '@nemawashi/contract'
import { CoreError } from '@nemawashi/core'
import { Router, type NextFunction, type Request, type Response } from 'express'
import type { z } from 'zod'
import { readBody } from './http/bodies'
import type { Reader } from './work/database'
import type { Kernel } from './kernel'
import { listCsv, listPage, sortColumn, type Filter, type ListSpec } from './http/lists'
import { firstAnswer } from './work/rememberedAnswers'
import { sendChunks } from './http/sendChunks'
import { ServerError } from './base/serverError'
import type { Work } from './work/unitOfWork'

export interface RequestContext<P, Q, B> {
  readonly params: P
  readonly query: Q
  readonly body: B
  /** Who asks; null only where anyone may. */
  readonly person: Person | null
  readonly request: Request
  readonly response: Response
}

type AskedOf<E> = E extends Endpoint<infer P, infer Q, infer B, z.ZodType> ? RequestContext<z.output<P>, z.output<Q>, z.output<B>> : never
type ReplyOf<E extends Endpoint> = z.input<E['reply']>

function requireSeen(where: string, value: unknown): void {
  const unseen = unseenIn(value)
  if (unseen !== null) {
    const problem = unseenWords(unseen)
    const fields = [{ field: unseen.path.join('.'), problem }]
    throw new ServerError('input_invalid', `Something is not understood. ${placeWords(unseen.path)}: ${problem}.`, { where, fields })
  }
}

function parse(where: string, schema: z.ZodType, value: unknown): unknown {
  requireSeen(where, value)
  return understood(where, schema, value)
}

function understood(where: string, schema: z.ZodType, value: unknown): unknown {
  const parsed = schema.safeParse(value)
  if (parsed.success) return parsed.data
  const fields = parsed.error.issues.slice(0, 20).map((issue) => ({ field: issue.path.join('.'), problem: issue.message }))
  const problems = parsed.error.issues.slice(0, 5).map(({ path, message }) => `${path.length > 0 ? `${placeWords(path)}: ` : ''}${message}`)
  throw new ServerError('input_invalid', `Something is missing or not understood. ${problems.join('; ')}.`, {
    where,
    fields,
  })
}

function checkAccess(access: Access, person: Person | null): void {
  if (mayCall({ access }, person?.roles ?? null)) return
  if (!person) throw new ServerError('signed_out', 'Nobody is signed in, or the session has ended.')
  if (typeof access === 'string')
    throw new ServerError('role_missing', 'The key of another system is for its events, and for nothing else.', { needed: [], has: person.roles })
  const needed = access
  throw new ServerError('role_missing', `This is for: ${needed.map((role) => roleWords[role]).join(', ')}.`, { needed, has: person.roles })
}

/** Bytes of a body that is read, looked through and understood in one turn; with more, others have theirs between. */
const bytesATurn = 100_000

/** The same for a body that may be long. */
async function parseBody(request: Request, schema: z.ZodType): Promise<unknown> {
  const value: unknown = request.body ?? {}
  const isLong = !(Number(request.get('content-length')) <= bytesATurn)
  if (isLong) await setImmediate()
  requireSeen('body', value)
  if (isLong) await setImmediate()
  return understood('body', schema, value)
}

/** A browser says where a change comes from: in one header on HTTPS and on this machine, in the other one everywhere. */
function checkOrigin(request: Request): void {
  const site = request.get('sec-fetch-site')
  const origin = request.get('origin')
  const isForeignSite = site !== undefined && site !== 'same-origin' && site !== 'none'
  const isForeignOrigin = origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== request.host)
  if (isForeignSite || isForeignOrigin) throw new ServerError('origin_foreign', 'The change was sent from a page of another site.', { site, origin })
}

/** A page says for whom it sends; when somebody else has signed in on that browser meanwhile, nothing is done in their name. */
function checkActor(request: Request, person: Person | null): void {
  const meant = request.get('x-person')
  if (meant !== undefined && person !== null && meant !== person.id)
    throw new ServerError('person_changed', `${person.name} is signed in here now; this was sent for somebody else and is not stored.`, {
      signedIn: person.signInName,
    })
}

/** How long a sign-in is good for what weighs most. */
const justMinutes = 15

/** Somebody may have left the place where they signed in. @throws {ServerError} `sign_in_old`. */
function checkJustSignedIn(minutes: number | null): void {
  if (minutes !== null && minutes <= justMinutes) return
  const ago = Math.floor(minutes ?? 0)
  throw new ServerError('sign_in_old', `You signed in ${ago} minutes ago; this asks for a sign-in of the last ${justMinutes} minutes.`, {
    minutes: ago,
  })
}

/** Who has a password that somebody else knows, or lacks the second factor that the plant asks for, does that first. */
function checkOwed(owed: Owed | null): void {
  if (owed === 'password') throw new ServerError('password_first', 'This password was chosen by somebody else.')
  if (owed === 'secondFactor') throw new ServerError('second_factor_first', 'The plant asks for a second factor, and there is none yet.')
}

/** In tests: a refusal that the documentation of the address does not name is a fault. */
function checkForeseen(endpoint: Endpoint, error: unknown): void {
  if ((error instanceof ServerError || error instanceof CoreError) && !refusalsOf(endpoint).includes(error.code))
    throw new Error(`${endpoint.method} ${endpoint.path} refuses with ${error.code}, which refusals.ts does not name.`)
}

/**
 * Registers endpoints of the contract. Reading handlers get a connection that cannot write; changing handlers run inside the
 * unit of work. There is no other way to register an address, so each has its access check and its schema.
 */
export class Routes {
  readonly router = Router()
  readonly registered: Endpoint[] = []

  constructor(private readonly kernel: Kernel) {}

  read<E extends Endpoint>(endpoint: E, handler: (reader: Reader, asked: AskedOf<E>) => Promise<ReplyOf<E>>): void {
    this.register(endpoint, endpoint.path, async (incoming) =>
      this.send(endpoint, incoming, await handler(this.kernel.database.reader, incoming as AskedOf<E>)),
    )
  }

  /** The same for what may take long where there is much: searches, and what looks back over many lots. */
  readLong<E extends Endpoint>(endpoint: E, handler: (reader: Reader, asked: AskedOf<E>) => Promise<ReplyOf<E>>): void {
    this.register(endpoint, endpoint.path, async (incoming) =>
      this.send(endpoint, incoming, await handler(this.kernel.database.longReader, incoming as AskedOf<E>)),
    )
  }

  /** Reads, and writes the answer itself: files. */
  stream<E extends Endpoint>(endpoint: E, handler: (reader: Reader, asked: AskedOf<E>) => Promise<void>): void {
    this.register(endpoint, endpoint.path, (incoming) => handler(this.kernel.database.longReader, incoming as AskedOf<E>))
  }

  change<E extends Endpoint>(endpoint: E, handler: (work: Work, asked: AskedOf<E>) => Promise<ReplyOf<E>>): void {
    this.changeAfter(endpoint, async () => undefined, handler)
  }

  /** A change with work before it that is slow and changes nothing, such as checking a password: done before the queue of changes is entered. */
  changeAfter<E extends Endpoint, T>(
    endpoint: E,
    prepare: (asked: AskedOf<E>) => Promise<T>,
    handler: (work: Work, asked: AskedOf<E>, prepared: T) => Promise<ReplyOf<E>>,
  ): void {
    this.register(endpoint, endpoint.path, async (incoming) => {
      checkOrigin(incoming.request)
      checkActor(incoming.request, incoming.person)
      const key = incoming.request.get('idempotency-key') ?? null
      if (key !== null && key.length > 100)
        throw new ServerError('input_invalid', 'The Idempotency-Key has more than 100 characters.', { field: 'Idempotency-Key' })
      const content = key === null ? '' : this.contentOf(endpoint, incoming.request)
      const request = { personId: incoming.person?.id ?? null, key, content, isShownOnce: endpoint.isShownOnce, isAtAnyTime: endpoint.isAtAnyTime }
      const first = await firstAnswer<ReplyOf<E>>(this.kernel.database.reader, request)
      if (first) return this.send(endpoint, incoming, first.reply)
      const prepared = await prepare(incoming as AskedOf<E>)
      this.send(endpoint, incoming, await this.kernel.work.run(request, (work) => handler(work, incoming as AskedOf<E>, prepared)))
    })
  }

  /**
   * What a request under a key is compared by when it comes again. Of passwords no more stands in it than tells two apart: sixteen bits under the
   * plant's own key, which is in no database; too few to try guesses against.
   */
  private contentOf(endpoint: Endpoint, request: Request): string {
    const body = (request.body ?? {}) as Readonly<Record<string, unknown>>
    const shown = (name: string, value: unknown) => (endpoint.secrets.includes(name) ? undefined : value)
    const secrets = endpoint.secrets.map((name) => body[name] ?? null)
    const seal =
      secrets.length === 0 ? '' : `\n${createHmac('sha256', this.kernel.chain.key).update(JSON.stringify(secrets)).digest('hex').slice(0, 4)}`
    return `${endpoint.method} ${request.path}\n${JSON.stringify(body, shown)}${seal}`
  }

  /** Several changes that were asked for together, each of them whole or not at all by itself; they have keys of their own. */
  changeEach<E extends Endpoint>(
    endpoint: E,
    handler: (each: <T>(work: (work: Work) => Promise<T>) => Promise<T>, asked: AskedOf<E>) => Promise<ReplyOf<E>>,
  ): void {
    this.register(endpoint, endpoint.path, async (incoming) => {
      checkOrigin(incoming.request)
      checkActor(incoming.request, incoming.person)
      const request = { personId: incoming.person?.id ?? null, key: null, content: '' }
      this.send(endpoint, incoming, await handler((work) => this.kernel.work.run(request, work), incoming as AskedOf<E>))
    })
  }

  /** Registers a list and its CSV. @param spec what it is made of, where that depends on what is asked as a function of it */
  list<E extends Endpoint>(
    endpoint: E,
    spec: ListSpec | ((query: AskedOf<E>['query']) => ListSpec),
    filters: (query: AskedOf<E>['query'], person: Person | null) => Filter[] = () => [],
  ): void {
    type Query = AskedOf<E>['query'] & ListQuery
    const specOf = (query: AskedOf<E>['query']) => (typeof spec === 'function' ? spec(query) : spec)
    this.readLong(
      endpoint,
      async (reader, { query, person }) => (await listPage(reader, specOf(query), query as Query, filters(query, person))) as ReplyOf<E>,
    )
    this.register(endpoint, `${endpoint.path}.csv`, async ({ query, person, response }) => {
      // Refused before anything was sent.
      sortColumn(specOf(query as Query), query as Query)
      response.type('text/csv').attachment(`${endpoint.path.split('/').at(-1)}.csv`)
      const input = query as Query
      await sendChunks(response, listCsv(this.kernel.database.longReader, specOf(input), input, filters(input, person)))
    })
  }

  private register(endpoint: Endpoint, path: string, handler: (asked: RequestContext<unknown, unknown, unknown>) => Promise<void>): void {
    this.registered.push(endpoint)
    const method = endpoint.method.toLowerCase() as 'get' | 'post' | 'put' | 'delete'
    this.router[method](path, async (request: Request, response: Response, _next: NextFunction) => {
      const person = await this.kernel.identity.personOf(request)
      checkAccess(endpoint.access, person)
      if (person !== null && endpoint.access !== 'anyone' && !endpoint.isWhileOwing) checkOwed(await this.kernel.identity.owedBy(request))
      if (endpoint.isForJustSignedIn) checkJustSignedIn(await this.kernel.identity.minutesSinceSignIn(request))
      const params = parse('address', endpoint.params, request.params)
      const query = parse('query', endpoint.query, request.query)
      const hasBody = endpoint.method === 'POST' || endpoint.method === 'PUT'
      if (hasBody) await readBody(request, response, path, person !== null)
      const body = hasBody ? await parseBody(request, endpoint.body) : {}
      try {
        await handler({ params, query, body, person, request, response })
      } catch (error) {
        if (this.kernel.isCheckingReplies) checkForeseen(endpoint, error)
        throw error
      }
    })
  }

  private send(endpoint: Endpoint, { response }: { response: Response }, reply: unknown): void {
    if (this.kernel.isCheckingReplies) {
      const checked = endpoint.reply.safeParse(reply)
      if (!checked.success) throw new Error(`The reply of ${endpoint.method} ${endpoint.path} breaks the contract: ${checked.error.message}`)
    }
    response.json(reply)
  }
}
