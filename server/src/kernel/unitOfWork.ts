import { createHash } from 'node:crypto'
import type { DataSource, EntityManager, QueryRunner } from 'typeorm'
import { appendToChain, type Change } from './auditChain'
import type { RequestKeyRow } from './entities'
import { ServerError } from './serverError'

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
  /** Says that this request left everything as it was, so that nothing has to be said in the chain. */
  nothingChanged(): void
}

export interface Clock {
  now(): Date
}

/**
 * The one way to change data. Changes run one after another, each in one transaction that also appends to the audit chain and
 * remembers the idempotency key. A repeated key answers with the first answer and changes nothing.
 */
export class UnitOfWork {
  private tail: Promise<unknown> = Promise.resolve()
  private readonly runner: QueryRunner

  constructor(
    writer: DataSource,
    private readonly clock: Clock,
    private readonly newId: () => string,
  ) {
    this.runner = writer.createQueryRunner()
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
    const { manager } = this.runner
    const requestHash = createHash('sha256').update(request.content).digest('hex')
    await this.runner.startTransaction()
    try {
      const first = await this.firstAnswer<T>(request, requestHash)
      if (first) {
        await this.runner.rollbackTransaction()
        return first.reply
      }
      const now = this.clock.now().toISOString()
      const changes: Change[] = []
      let isUnchanged = false
      const reply = await work({
        manager,
        now,
        personId: request.personId,
        newId: this.newId,
        nextCode: (prefix) => nextCode(manager, prefix),
        audit: (change) => void changes.push(change),
        nothingChanged: () => void (isUnchanged = true),
      })
      if (changes.length === 0 && !isUnchanged) throw new Error('A change was made that the audit chain was not told of.')
      await appendToChain(manager, now, request.personId, changes)
      if (request.key !== null) {
        await manager.query('INSERT INTO request_key ("key", personId, requestHash, reply, at) VALUES (?,?,?,?,?)', [
          request.key,
          request.personId ?? '',
          requestHash,
          JSON.stringify(reply),
          now,
        ])
      }
      await this.runner.commitTransaction()
      return reply
    } catch (error) {
      if (this.runner.isTransactionActive) await this.runner.rollbackTransaction()
      throw error
    }
  }

  private async firstAnswer<T>({ key, personId }: ChangeRequest, requestHash: string): Promise<{ reply: T } | null> {
    if (key === null) return null
    const [row] = (await this.runner.manager.query('SELECT requestHash, reply FROM request_key WHERE "key" = ? AND personId = ?', [
      key,
      personId ?? '',
    ])) as (Pick<RequestKeyRow, 'requestHash'> & { reply: string })[]
    if (!row) return null
    if (row.requestHash !== requestHash) throw new ServerError('key_reused', `The Idempotency-Key "${key}" was used for another request.`, { key })
    return { reply: JSON.parse(row.reply) as T }
  }
}

async function nextCode(manager: EntityManager, prefix: string): Promise<string> {
  const [row] = (await manager.query(
    'INSERT INTO counter (name, value) VALUES (?, 1) ON CONFLICT (name) DO UPDATE SET value = value + 1 RETURNING value',
    [prefix],
  )) as { value: number }[]
  return `${prefix}-${String(row?.value ?? 0).padStart(6, '0')}`
}
