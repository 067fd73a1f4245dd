import { join, resolve } from 'node:path'
import { secondFactorRules, type SecondFactorRule } from '@nemawashi/contract'
import { z } from 'zod'

function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name })
    return true
  } catch {
    return false
  }
}

const path = z.string().min(1).optional()
const Environment = z
  .object({
    PORT: z.coerce.number('is no number').int().min(0).max(65_535).default(4720),
    NEMAWASHI_HOST: z.string().min(1).default('127.0.0.1'),
    NEMAWASHI_DATA: z.string().min(1).default('.data/plant'),
    NEMAWASHI_LOG: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('warn'),
    NEMAWASHI_SESSION_HOURS: z.coerce.number('is no number').positive().max(240).default(12),
    NEMAWASHI_IDLE_MINUTES: z.coerce.number('is no number').min(0).max(1440).default(60),
    NEMAWASHI_GIVEN_PASSWORDS: z.enum(['change', 'keep']).default('change'),
    NEMAWASHI_SECOND_FACTOR: z.enum(secondFactorRules).default('offered'),
    NEMAWASHI_TIME_ZONE: z.string().refine(isTimeZone, 'is no time zone; write it like Europe/Vienna or UTC').optional(),
    NEMAWASHI_TLS_CERT: path,
    NEMAWASHI_TLS_KEY: path,
    NEMAWASHI_TRUSTED_PROXY: path,
    NEMAWASHI_DATABASE: z
      .string()
      .refine(
        (text) => /^postgres(ql)?:\/\//.test(text) && URL.canParse(text),
        'is no address of a PostgreSQL server; write it like postgres://name@host/plant',
      )
      .optional(),
    NEMAWASHI_WEBHOOK: z.url({ protocol: /^https?$/, error: 'is no address; write it like https://host/path' }).optional(),
    NEMAWASHI_WEBHOOK_SECRET: z.string().min(16, 'has fewer than 16 characters').optional(),
    NEMAWASHI_INBOX: path,
    NEMAWASHI_INSTRUMENT_PORT: z.coerce.number('is no number').int().min(0).max(65_535).optional(),
    NEMAWASHI_CHAIN_KEY: path,
    NEMAWASHI_CHAIN_HEAD: path,
  })
  .refine((all) => (all.NEMAWASHI_TLS_CERT === undefined) === (all.NEMAWASHI_TLS_KEY === undefined), {
    path: ['NEMAWASHI_TLS_KEY'],
    message: 'certificate and key belong together: give NEMAWASHI_TLS_CERT and NEMAWASHI_TLS_KEY, or neither',
  })
  .refine((all) => (all.NEMAWASHI_WEBHOOK === undefined) === (all.NEMAWASHI_WEBHOOK_SECRET === undefined), {
    path: ['NEMAWASHI_WEBHOOK_SECRET'],
    message: 'address and secret belong together: give NEMAWASHI_WEBHOOK and NEMAWASHI_WEBHOOK_SECRET, or neither',
  })

export interface Config {
  readonly port: number
  readonly host: string
  readonly dataFolder: string
  /** Address of the PostgreSQL server that has the plant; null: a file in the data folder. */
  readonly databaseServer: string | null
  readonly logLevel: string
  readonly sessionHours: number
  /** A session that nobody did anything at for so long is ended; 0: none is. */
  readonly idleMinutes: number
  /** Whether people may go on with a password that somebody else chose for them. */
  readonly isGivenPasswordKept: boolean
  readonly secondFactor: SecondFactorRule
  /** The plant's own time zone: what a day is, on the server, on screens and on paper. */
  readonly timeZone: string
  /** Files of the certificate and its key; null: plain HTTP. */
  readonly tls: { readonly cert: string; readonly key: string } | null
  /** Address or network of a proxy whose word on the sender is taken; null: nobody's. */
  readonly trustedProxy: string | null
  /** Where another system is told what became of lots, and what the words are signed with; null: nobody is told. */
  readonly webhook: { readonly url: string; readonly secret: string } | null
  /** A folder that another system drops files of events in; null: none is looked at. */
  readonly inbox: string | null
  /** Where instruments connect that speak lines and not HTTP; null: nowhere. */
  readonly instrumentPort: number | null
  /** The key that heads of the audit chain are sealed with, and where the latest head is said; both outside the database. */
  readonly chainKeyFile: string
  readonly chainHeadFile: string
}

/** What was received, without the password of an address. */
const shown = (value = '') => value.replace(/:[^:@/]+@/, ':***@')

/** Reads the configuration from the environment; a wrong value stops the start and says which and why. An empty one counts as not given. */
export function readConfig(environment: Record<string, string | undefined>): Config {
  const given = Object.fromEntries(Object.entries(environment).filter(([, value]) => value !== ''))
  const parsed = Environment.safeParse(given)
  if (!parsed.success) {
    const problems = parsed.error.issues.map((issue) => `${issue.path.join('.')} = "${shown(given[String(issue.path[0])])}": ${issue.message}`)
    throw new Error(`The configuration is not valid.\n${problems.join('\n')}`)
  }
  const all = parsed.data
  const dataFolder = resolve(all.NEMAWASHI_DATA)
  return {
    port: all.PORT,
    host: all.NEMAWASHI_HOST,
    dataFolder,
    databaseServer: all.NEMAWASHI_DATABASE ?? null,
    logLevel: all.NEMAWASHI_LOG,
    sessionHours: all.NEMAWASHI_SESSION_HOURS,
    idleMinutes: all.NEMAWASHI_IDLE_MINUTES,
    isGivenPasswordKept: all.NEMAWASHI_GIVEN_PASSWORDS === 'keep',
    secondFactor: all.NEMAWASHI_SECOND_FACTOR,
    timeZone: all.NEMAWASHI_TIME_ZONE ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
    tls:
      all.NEMAWASHI_TLS_CERT !== undefined && all.NEMAWASHI_TLS_KEY !== undefined
        ? { cert: all.NEMAWASHI_TLS_CERT, key: all.NEMAWASHI_TLS_KEY }
        : null,
    trustedProxy: all.NEMAWASHI_TRUSTED_PROXY ?? null,
    webhook:
      all.NEMAWASHI_WEBHOOK !== undefined && all.NEMAWASHI_WEBHOOK_SECRET !== undefined
        ? { url: all.NEMAWASHI_WEBHOOK, secret: all.NEMAWASHI_WEBHOOK_SECRET }
        : null,
    inbox: all.NEMAWASHI_INBOX === undefined ? null : resolve(all.NEMAWASHI_INBOX),
    instrumentPort: all.NEMAWASHI_INSTRUMENT_PORT ?? null,
    chainKeyFile: resolve(all.NEMAWASHI_CHAIN_KEY ?? join(dataFolder, 'chain.key')),
    chainHeadFile: resolve(all.NEMAWASHI_CHAIN_HEAD ?? join(dataFolder, 'chain.head')),
  }
}
