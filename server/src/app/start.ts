import { checkRows } from '../kernel/database/rowsOf'
import { AttemptsOnServer } from '../people/attemptRepository'
import { randomInt } from 'node:crypto'
import { existsSync, renameSync } from 'node:fs'
import { performance } from 'node:perf_hooks'
import { pino } from 'pino'
import { v7 } from 'uuid'
import { hashAt, headOf } from '../kernel/audit/auditChain'
import { chainKey, HeadFile, isSealed, signHead, type Head } from '../kernel/audit/chainHead'
import type { Config } from '../kernel/base/config'
import { openDatabase, type Database } from '../kernel/work/database'
import { DomainEvents } from '../kernel/work/domainEvents'
import type { Kernel } from '../kernel/kernel'
import type { App } from '../people/app'
import { areas, schema } from './areas'
import { verifyTask } from './verifyTask'
import { OpenPages } from '../kernel/http/openPages'
import { Progress } from '../kernel/threads/progress'
import { ThreadPool } from '../kernel/threads/threadPool'
import { Attempts } from '../people/attempts'
import { AttemptsInMemory } from '../people/attemptStore'
import { Credentials } from '../people/credentials'
import { Sessions } from '../people/sessions'
import { UnitOfWork, type Clock } from '../kernel/work/unitOfWork'

export interface Choices {
  readonly clock?: Clock
  readonly newId?: () => string
  readonly demoPeople?: Kernel['demoPeople']
  readonly isCheckingReplies?: boolean
  readonly monotonicMs?: () => number
  readonly setupCode?: string
}

export const version = '0.1.0'

export const systemClock: Clock = { now: () => new Date() }

/** Eight letters and digits that nobody mixes up. */
function newSetupCode(): string {
  const signs = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789'
  const code = Array.from({ length: 8 }, () => signs[randomInt(signs.length)]).join('')
  return `${code.slice(0, 4)}-${code.slice(4)}`
}

/** What the file outside says that the database does not bear out; null when all fits, or nothing was said. */
async function lostEnd(database: Database, file: HeadFile, key: Buffer, found: Head): Promise<Kernel['chain']['trouble']> {
  const said = file.read()
  if (said === null) return null
  if (said === 'damaged' || !isSealed(key, said)) return { said: 'damaged', found }
  return (await hashAt(database.reader, said.seq)) === said.hash ? null : { said: { seq: said.seq, hash: said.hash }, found }
}

/** Opens the database of the configured folder and puts the parts together. `close` waits for the changes under way. */
export async function startApp(config: Config, choices: Choices = {}): Promise<App & { close(): Promise<void> }> {
  if (choices.isCheckingReplies) checkRows()
  const clock = choices.clock ?? systemClock
  const database = await openDatabase(config, schema, () => clock.now())
  const key = chainKey(config.chainKeyFile)
  const file = new HeadFile(config.chainHeadFile, key)
  const head = () => headOf(database.reader)
  const trouble = await lostEnd(database, file, key, await head())
  const events = new DomainEvents()
  for (const area of areas) area.subscribe?.(events, config)
  // A clock that somebody sets is compared with one that goes along with it, or with none.
  const passedMs = choices.clock === undefined ? () => performance.now() : (choices.monotonicMs ?? null)
  const work = new UnitOfWork(database.writer, clock, choices.newId ?? v7, file, events, passedMs)
  const log = pino({ level: config.logLevel })
  if (trouble) {
    // The word outside is kept, and the chain says from here on that something is missing before it.
    log.error(trouble, 'the audit chain does not reach as far as was said outside the database')
    if (existsSync(file.file)) renameSync(file.file, `${file.file}.lost-${clock.now().toISOString().replaceAll(/[:.]/g, '-')}`)
    await work.run({ personId: null, key: null, content: '' }, async ({ audit }) =>
      audit({ action: 'found shorter', subject: 'plant', subjectId: '', after: trouble }),
    )
  } else work.tellOutside(await head())
  if (work.headTrouble !== null) log.error(work.headTrouble)
  const threads = new ThreadPool(import.meta.url, 'taskWorker')
  const monotonicMs = choices.monotonicMs ?? (() => performance.now())
  const attempts = new Attempts(database.isAlone ? new AttemptsInMemory(monotonicMs) : new AttemptsOnServer(database, choices.monotonicMs))
  const openPages = new OpenPages(database.fellows)
  const credentials = new Credentials(database.reader, attempts, key, config.isGivenPasswordKept, config.secondFactor)
  const idleMinutes = choices.clock === undefined ? config.idleMinutes : 0
  const sessions = new Sessions(database, clock, config.sessionHours, idleMinutes, config.tls !== null, (person) => credentials.owedBy(person))
  return {
    config,
    clock,
    database,
    work,
    progress: new Progress(database.fellows),
    openPages,
    threads,
    identity: sessions,
    sessions,
    credentials,
    attempts,
    areas,
    schema,
    version,
    log,
    startedAt: clock.now().toISOString(),
    monotonicMs,
    setupCode: choices.setupCode ?? newSetupCode(),
    chain: {
      key,
      file,
      head: async () => signHead(key, await head(), clock.now().toISOString()),
      verify: (heads = [], tell) => threads.run(verifyTask, { address: database.address, key, heads }, tell),
      trouble,
    },
    demoPeople: choices.demoPeople ?? [],
    isCheckingReplies: choices.isCheckingReplies ?? false,
    async close() {
      openPages.close()
      await work.settled()
      file.close()
      await threads.close()
      await database.close()
    },
  }
}
