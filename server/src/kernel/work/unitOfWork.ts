import { setImmediate } from 'node:timers/promises'
import { ChainWriter, headOf, type Change } from '../audit/auditChain'
import { ClockGuard } from './clockGuard'
import type { Head, HeadFile } from '../audit/chainHead'
import { Counters } from './counters'
import { DomainEvents, type DomainEventFacts } from './domainEvents'
import type { Store, Writer } from './database'
import { firstAnswer, rememberAnswer, type RememberedRequest } from './rememberedAnswers'
import { RowSealer } from '../audit/rowSeals'
import { dayOf } from '../database/plantTime'
import { ServerError, storageFailure } from '../base/serverError'

/** Who asks for a change, and under which idempotency key. */
export interface ChangeRequest extends RememberedRequest {
  /** It is stored also while the clock is not believed. */
  readonly isAtAnyTime?: boolean
}

/** What a change may use: the database inside its transaction, the clock, new ids, and the audit chain. */
export interface Work {
  readonly manager: Store
  readonly now: string
  /** The day that it is in the plant. */
  readonly today: string
  readonly personId: string | null
  newId(): string
  /** Next running number under a prefix: `L-000123`. */
  nextCode(prefix: string): Promise<string>
  audit(change: Change): void
  /** Tells other areas what happened; what they do about it belongs to this change. */
  emit<N extends keyof DomainEventFacts>(name: N, facts: DomainEventFacts[N]): Promise<void>
  /** Says that this request left everything as it was, so that nothing has to be said in the chain. */
  nothingChanged(): void
}

export interface Clock {
  now(): Date
}

/** Changes that share a commit: so many, or as many as are begun in this time. */
const maxTogether = 100
const maxTogetherMs = 50

interface QueuedChange {
  readonly request: ChangeRequest
  readonly work: (work: Work) => Promise<unknown>
  readonly resolve: (reply: unknown) => void
  readonly reject: (error: unknown) => void
}

/**
 * The one way to change data. Changes run one after another, each of them whole or not at all; it appends to the audit chain and
 * remembers the idempotency key. A repeated key answers with the first answer and changes nothing.
 *
 * Changes that wait at the same time share a transaction, in which each has a savepoint of its own, and one wait for the disk; each is
 * acknowledged after the commit. The transaction is begun and ended here and not by the mapper: a database ends one by itself when its
 * disk fails, and whether one is open is asked of it alone. Nothing is acknowledged that was not committed in a transaction which was
 * open to its end.
 */
export class UnitOfWork {
  private readonly waiting: QueuedChange[] = []
  private running: Promise<void> | null = null
  private sealing: { readonly connection: Writer['connection']; readonly chain: ChainWriter; readonly sealer: RowSealer } | null = null
  private readonly guard: ClockGuard
  /** Why nothing can be stored now, of the last change that was tried; null while all is well. */
  trouble: ServerError | null = null
  /** Why it cannot be said outside how far the chain goes; null while it can. */
  headTrouble: string | null = null

  constructor(
    private readonly writer: Writer,
    private readonly clock: Clock,
    private readonly newId: () => string,
    private readonly head: HeadFile | null = null,
    private readonly events: DomainEvents = new DomainEvents(),
    passedMs: (() => number) | null = null,
    private readonly togetherMs = maxTogetherMs,
  ) {
    this.guard = new ClockGuard(passedMs)
  }

  /** What is wrong with the clock; null while it is believed. */
  get clockTrouble(): string | null {
    return this.guard.trouble
  }

  /** The clock is right as it is now, says somebody who may. */
  async agreeToClock(): Promise<void> {
    this.guard.agree((await headOf(this.writer)).seq)
  }

  /** What seals rows and appends to the chain, on the connection as it is now. */
  private get seals() {
    const connection = this.writer.connection
    if (this.sealing?.connection !== connection) this.sealing = { connection, chain: new ChainWriter(connection), sealer: new RowSealer(connection) }
    return this.sealing
  }

  /** Runs after every change that was asked for before. Throws what `work` throws, with nothing written. */
  run<T>(request: ChangeRequest, work: (work: Work) => Promise<T>): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      this.waiting.push({ request, work, resolve: resolve as QueuedChange['resolve'], reject })
      this.running ??= this.runAll()
    })
  }

  /** Resolves when every change asked for so far has ended. */
  async settled(): Promise<void> {
    while (this.running) await this.running
  }

  private async runAll(): Promise<void> {
    while (this.waiting.length > 0) {
      // Whoever asks in the same turn goes along.
      await setImmediate()
      await this.together()
    }
    // At once, so that nobody who asks now is left waiting for a round that has ended.
    this.running = null
  }

  /** Says outside how far the chain goes. What was stored is stored also where that cannot be said; the next change says it again. */
  tellOutside(head: Head): void {
    try {
      this.head?.write(head, this.clock.now().toISOString())
      this.headTrouble = null
    } catch (error) {
      this.head?.forget()
      this.headTrouble = `${this.head?.file ?? 'The file of the chain head'} cannot be written: ${error instanceof Error ? error.message : String(error)}. Changes are stored, but a lost end of the audit chain would not be noticed.`
    }
  }

  /** Runs what waits, up to the bounds, in one transaction, and acknowledges all of it after the commit. */
  private async together(): Promise<void> {
    const done: { asked: QueuedChange; reply: unknown }[] = []
    let current: QueuedChange | undefined
    let head: Head | null = null
    let hasBegun = false
    try {
      await this.leaveNothingOpen()
      await this.writer.begin()
      await this.seals.sealer.begin()
      this.seals.chain.begin()
      hasBegun = true
      const beganMs = performance.now()
      while (this.waiting.length > 0 && done.length < maxTogether && performance.now() - beganMs < this.togetherMs) {
        current = this.waiting.shift() as QueuedChange
        const outcome = await this.attempt(current)
        if (outcome) {
          done.push({ asked: current, reply: outcome.reply })
          head = outcome.head ?? head
        }
        current = undefined
      }
      await this.writer.connection.commit()
      if (head) this.tellOutside(head)
      if (done.length > 0) this.trouble = null
    } catch (error) {
      const failure = storageFailure(error)
      if (failure) this.trouble = failure
      // The transaction is gone, and with it everything that was done in it.
      const lost = current ? [current] : hasBegun ? [] : this.waiting.splice(0, 1)
      for (const { reject } of [...lost, ...done.splice(0).map(({ asked }) => asked)]) reject(failure ?? error)
      // What cannot be ended now is tried again before the next one begins, which is refused where it cannot.
      try {
        await this.leaveNothingOpen()
      } catch (stuck) {
        this.trouble = storageFailure(stuck) ?? this.trouble
      }
    }
    for (const { asked, reply } of done) asked.resolve(reply)
  }

  /** One change within the shared transaction; null where it was refused and has left nothing. Throws where the transaction is lost. */
  private async attempt(queued: QueuedChange): Promise<{ reply: unknown; head: Head | null } | null> {
    const { connection } = this.writer
    await connection.run('SAVEPOINT change')
    const counters = new Counters(this.writer)
    try {
      const outcome = await this.changed(queued.request, queued.work, counters)
      await connection.run('RELEASE SAVEPOINT change')
      return outcome
    } catch (error) {
      if (!connection.isOpen()) throw error
      await connection.run('ROLLBACK TO SAVEPOINT change')
      await connection.run('RELEASE SAVEPOINT change')
      // Rows and entries that it wrote are gone again.
      await this.seals.sealer.begin()
      this.seals.chain.begin()
      const failure = storageFailure(error)
      if (failure) this.trouble = failure
      queued.reject(failure ?? counters.taken(error) ?? error)
      return null
    }
  }

  private async changed(
    request: ChangeRequest,
    work: (work: Work) => Promise<unknown>,
    counters: Counters,
  ): Promise<{ reply: unknown; head: Head | null }> {
    const { writer } = this
    const { chain, sealer } = this.seals
    const first = await firstAnswer<unknown>(writer, request)
    if (first) return { reply: first.reply, head: null }
    const now = this.guard.instantOf(this.clock.now(), await chain.last(), request.isAtAnyTime === true).toISOString()
    const changes: Change[] = []
    let isUnchanged = false
    const manager = writer.gathered()
    const unit: Work = {
      manager,
      now,
      today: dayOf(manager, now),
      personId: request.personId,
      newId: this.newId,
      nextCode: (prefix) => counters.next(prefix),
      audit: (change) => void changes.push(change),
      nothingChanged: () => void (isUnchanged = true),
      emit: (name, facts) => this.events.emit(unit, name, facts),
    }
    const reply = await work(unit)
    await manager.written()
    await counters.keep()
    this.requireOpen()
    // Where nothing was changed, nothing has to be remembered: asked again, it is looked at again.
    if (changes.length > 0) await rememberAnswer(writer, request, reply, now)
    const rows = await sealer.take()
    if (changes.length === 0 && (!isUnchanged || rows !== null)) throw new Error('A change was made that the audit chain was not told of.')
    const head = changes.length === 0 ? null : await chain.append(now, request.personId, changes, rows)
    this.requireOpen()
    return { reply, head }
  }

  /** A transaction that the database gave up in between has written what came after it without the rest. */
  private requireOpen(): void {
    if (!this.writer.connection.isOpen()) throw new ServerError('storage_failed', 'Nothing can be stored now: the transaction was lost.', {})
  }

  /** After this no transaction is open, or everything that is asked for later is refused. */
  private async leaveNothingOpen(): Promise<void> {
    const { connection } = this.writer
    if (!connection.isOpen()) return
    try {
      await connection.run('ROLLBACK')
    } catch (error) {
      if (connection.isOpen()) throw storageFailure(error) ?? error
    }
  }
}
