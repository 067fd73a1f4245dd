import { z } from 'zod'

export const roles = [
  'qualityEngineer',
  'inspector',
  'receivingClerk',
  'productionOperator',
  'qualityManager',
  'auditor',
  'administrator',
  'orderFeed',
] as const
export const Role = z.enum(roles)
export type Role = z.infer<typeof Role>

export const roleWords: Readonly<Record<Role, string>> = {
  qualityEngineer: 'quality engineer',
  inspector: 'inspector',
  receivingClerk: 'receiving clerk',
  productionOperator: 'production operator',
  qualityManager: 'quality manager',
  auditor: 'auditor',
  administrator: 'administrator',
  orderFeed: 'order feed (another system)',
}

/** Who may call: anybody, anybody signed in, or people with one of these roles. */
export type Access = 'anyone' | 'signedIn' | readonly [Role, ...Role[]]

export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE'

/** One address of the API: who may call it and what crosses the wire. A missing `access` does not compile. */
export interface Endpoint<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  R extends z.ZodType = z.ZodType,
> {
  readonly method: Method
  readonly path: string
  readonly access: Access
  readonly summary: string
  readonly params: P
  readonly query: Q
  readonly body: B
  readonly reply: R
  /** Fields of the body that must not be kept in any form: passwords. */
  readonly secrets: readonly string[]
  /** Whether the answer holds a secret that is shown once: it is not remembered for a request that comes again. */
  readonly isShownOnce: boolean
  /** A change that is stored also while the clock of the server is not believed. */
  readonly isAtAnyTime: boolean
  /** What weighs most: it asks for a sign-in of a moment ago, so that nobody does it at a place that somebody has left. */
  readonly isForJustSignedIn: boolean
  /** Open to whoever has to choose a password of their own, or set up a second factor, before anything else. */
  readonly isWhileOwing: boolean
}

/** Whether somebody with these roles may call an address; null: nobody is signed in. The server asks this, and so do the pages. */
export function mayCall({ access }: { readonly access: Access }, roles: readonly Role[] | null): boolean {
  if (access === 'anyone') return true
  if (roles === null) return false
  // Another system sends its events with its key, and looks at nothing.
  if (access === 'signedIn') return roles.some((role) => role !== 'orderFeed')
  return access.some((role) => roles.includes(role))
}

/** Text that somebody types into a field: blanks around it are dropped, and every refusal is in words. */
export function words(most: number, least = 1) {
  const text = z.string('write something here').trim()
  const missing = least > 1 ? `write at least ${least} characters` : 'fill this in'
  return text.min(least, missing).max(most, `at most ${most} characters`)
}
/** So many whole steps of the unit of the part: 25050 of a part that is counted in `0.01 kg` are 250.5 kg. */
export const Quantity = z
  .number('write a number')
  .describe('In whole steps of the unit of the part: 25050 of one that is counted in "0.01 kg" are 250.5 kg')
/** The reply of an address that sends a file. */
export const file = (words: string) => z.string().describe(words)
export const Nothing = z.strictObject({})
export const Id = z.uuid('choose one from the list')
export const ById = z.strictObject({ id: Id })
export const Version = z.int().min(1)
export const Instant = z.iso.datetime()

type Parts<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType> = {
  access: Access
  summary: string
  params?: P
  query?: Q
  body?: B
  reply: R
  secrets?: readonly string[]
  isShownOnce?: boolean
  isAtAnyTime?: boolean
  isForJustSignedIn?: boolean
  isWhileOwing?: boolean
}

/** Declares an endpoint; what is not given is an empty object. */
export function endpoint<
  R extends z.ZodType,
  P extends z.ZodType = typeof Nothing,
  Q extends z.ZodType = typeof Nothing,
  B extends z.ZodType = typeof Nothing,
>(method: Method, path: string, parts: Parts<P, Q, B, R>): Endpoint<P, Q, B, R> {
  const { access, summary, reply, secrets = [], ...rest } = parts
  const { isShownOnce = false, isAtAnyTime = false, isForJustSignedIn = false, isWhileOwing = false, ...given } = rest
  // What is left out stands in the types as an empty object, too.
  const said = { params: Nothing, query: Nothing, body: Nothing, ...given } as Pick<Endpoint<P, Q, B, R>, 'params' | 'query' | 'body'>
  return { method, path, access, summary, reply, secrets, isShownOnce, isAtAnyTime, isForJustSignedIn, isWhileOwing, ...said }
}

/** What every list understands: search words, sorting, the key to go on after, and how many rows. */
export const ListQuery = z.strictObject({
  q: z.string().max(200).optional(),
  sort: z.string().max(40).optional(),
  dir: z.enum(['asc', 'desc']).optional(),
  after: z.string().max(600).optional(),
  limit: z.coerce.number().int().min(1).max(200).optional(),
})
export type ListQuery = z.infer<typeof ListQuery>

/** One page of a list: its rows, how many rows match in all, and the key of the next page. */
export interface ListPage<Row> {
  rows: Row[]
  total: number
  next: string | null
}

/** The address of a list whose rows look so. */
export type ListEndpoint<Row> = Endpoint<z.ZodType, z.ZodType, z.ZodType, z.ZodType<ListPage<Row>>>

export function listEndpoint<R extends z.ZodType, F extends z.ZodRawShape = Record<never, never>>(
  path: string,
  summary: string,
  row: R,
  filters?: F,
  access: Access = 'signedIn',
) {
  return endpoint('GET', path, {
    access,
    summary: `${summary}. With the ending .csv: all matching rows as CSV.`,
    query: ListQuery.extend(filters ?? ({} as F)),
    reply: z.strictObject({ rows: z.array(row), total: z.int(), next: z.string().nullable() }),
  })
}
