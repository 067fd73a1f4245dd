import { createHash } from 'node:crypto'
import { setTimeout as wait } from 'node:timers/promises'
import type { DataSource, EntityManager } from 'typeorm'
import { ChainWriter, type Change } from './auditChain'
import type { HeadFile } from './chainHead'
import type { RequestKeyRow } from './entities'
import { Happenings, type Happened } from './happenings'
import { rawOf, type RawDatabase } from './rawDatabase'
import { RowSealer } from './rowSeals'
import { ServerError, storageFailure } from './serverError'
import { sqliteCode } from './storage'

/** Who asks for a change, and under which idempotency key. */
export interface ChangeRequest {
  readonly personId: string | null
  readonly key: string | null
  /** What the key stands for: address and body. */
  readonly content: string
}

/** What a change may use: the database inside its transaction, the clock, new ids, and the audit chain. */
export interface Work {
  readonly manager: EntityManager
  readonly now: string
  readonly personId: string | null
  newId(): string
  /** Next running number under a prefix: `L-000123`. */
  nextCode(prefix: string): Promise<string>
  audit(change: Change): void
  /** Tells other areas what happened; what they do about it belongs to this change. */
  happened<N extends keyof Happened>(name: N, facts: Happened[N]): Promise<void>
  /** Says that this request left everything as it was, so that nothing has to be said in the chain. */
  nothingChanged(): void
}

export interface Clock {
  now(): Date
}

/** How long another program may keep the database before a change is refused. */
const mostWaitMs = 5000
const stepMs = 20

/**
 * The one way to change data. Changes run one after another, each in one transaction that also appends to the audit chain and
 * remembers the idempotency key. A repeated key answers with the first answer and changes nothing.
 *
 * The transaction is begun and ended here and not by the mapper: SQLite ends one by itself when the disk fails, and whether one is
 * open is asked of SQLite alone. Nothing is acknowledged that was not committed in a transaction which was open to its end.
 */
export class UnitOfWork {
  private tail: Promise<unknown> = Promise.resolve()
  private readonly manager: EntityManager
  private readonly raw: RawDatabase
  private readonly chain: ChainWriter
  private readonly sealer: RowSealer
  /** Why nothing can be stored now, of the last change that was tried; null while all is well. */
  trouble: ServerError | null = null

  constructor(
    writer: DataSource,
    private readonly clock: Clock,
    private readonly newId: () => string,
    private readonly head: HeadFile | null = null,
    private readonly happenings: Happenings = new Happenings(),
  ) {
    this.manager = writer.createQueryRunner().manager
    this.raw = rawOf(writer)
    this.chain = new ChainWriter(this.raw)
    this.sealer = new RowSealer(this.raw)
  }

  /** Runs after every change that was asked for before. Throws what `work` throws, with nothing written. */
  run<T>(request: ChangeRequest, work: (work: Work) => Promise<T>): Promise<T> {
    const result = this.tail.then(() => this.inTransaction(request, work))
    this.tail = result.catch(() => undefined)
    return result
  }

  /** Resolves when every change asked for so far has ended. */
  async settled(): Promise<void> {
    await this.tail
  }

  private async inTransaction<T>(request: ChangeRequest, work: (work: Work) => Promise<T>): Promise<T> {
    try {
      await this.begin()
      const reply = await this.changed(request, work)
      this.trouble = null
      return reply
    } catch (error) {
      const failure = storageFailure(error)
      if (failure) this.trouble = failure
      throw failure ?? error
    } finally {
      this.leaveNothingOpen()
    }
  }

  private async changed<T>(request: ChangeRequest, work: (work: Work) => Promise<T>): Promise<T> {
    const { manager } = this
    const first = await this.firstAnswer<T>(manager, request)
    if (first) return first.reply
    const now = this.clock.now().toISOString()
    const changes: Change[] = []
    let isUnchanged = false
    const unit: Work = {
      manager,
      now,
      personId: request.personId,
      newId: this.newId,
      nextCode: (prefix) => nextCode(manager, prefix),
      audit: (change) => void changes.push(change),
      nothingChanged: () => void (isUnchanged = true),
      happened: (name, facts) => this.happenings.tell(unit, name, facts),
    }
    const reply = await work(unit)
    const rows = this.sealer.take()
    if (changes.length === 0 && (!isUnchanged || rows !== null)) throw new Error('A change was made that the audit chain was not told of.')
    const head = changes.length === 0 ? null : this.chain.append(now, request.personId, changes, rows)
    if (request.key !== null) {
      await manager.query('INSERT INTO request_key ("key", personId, requestHash, reply, at) VALUES (?,?,?,?,?)', [
        request.key,
        request.personId ?? '',
        hashOfContent(request.content),
        JSON.stringify(reply),
        now,
      ])
    }
    // A transaction that SQLite gave up in between has written what came after it without the rest.
    if (!this.raw.inTransaction) throw new ServerError('storage_failed', 'Nothing can be stored now: the transaction was lost.', {})
    this.raw.exec('COMMIT')
    if (head) this.head?.write(head, now)
    return reply
  }

  /** Takes the right to write, waiting without holding up the process while another program has it. */
  private async begin(): Promise<void> {
    this.leaveNothingOpen()
    const beganMs = performance.now()
    for (;;) {
      try {
        this.raw.exec('BEGIN IMMEDIATE')
        this.sealer.forget()
        return
      } catch (error) {
        if (!sqliteCode(error).startsWith('SQLITE_BUSY')) throw error
        const waitedMs = Math.round(performance.now() - beganMs)
        if (waitedMs >= mostWaitMs) {
          throw new ServerError('storage_busy', 'Another program keeps the database from being written to.', { waitedMs })
        }
        await wait(stepMs)
      }
    }
  }

  /** After this no transaction is open, or everything that is asked for later is refused. */
  private leaveNothingOpen(): void {
    if (!this.raw.inTransaction) return
    try {
      this.raw.exec('ROLLBACK')
    } catch (error) {
      if (this.raw.inTransaction) throw storageFailure(error) ?? error
    }
  }

  /** What was answered to this request before, under its key; null when it is new. @throws {ServerError} `key_reused`. */
  async firstAnswer<T>(reader: Pick<EntityManager, 'query'>, { key, personId, content }: ChangeRequest): Promise<{ reply: T } | null> {
    if (key === null) return null
    const requestHash = hashOfContent(content)
    const [row] = (await reader.query('SELECT requestHash, reply FROM request_key WHERE "key" = ? AND personId = ?', [key, personId ?? ''])) as (Pick<
      RequestKeyRow,
      'requestHash'
    > & { reply: string })[]
    if (!row) return null
    if (row.requestHash !== requestHash) throw new ServerError('key_reused', `The Idempotency-Key "${key}" was used for another request.`, { key })
    return { reply: JSON.parse(row.reply) as T }
  }
}

function hashOfContent(content: string): string {
  return createHash('sha256').update(content).digest('hex')
}

async function nextCode(manager: EntityManager, prefix: string): Promise<string> {
  const [row] = (await manager.query(
    'INSERT INTO counter (name, value) VALUES (?, 1) ON CONFLICT (name) DO UPDATE SET value = value + 1 RETURNING value',
    [prefix],
  )) as { value: number }[]
  return `${prefix}-${String(row?.value ?? 0).padStart(6, '0')}`
}
