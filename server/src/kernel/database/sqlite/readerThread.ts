import type { Worker } from 'node:worker_threads'
import type { RawRow } from '../connection'
import type { Answer, Question } from './readerWorker'
import { startThread } from '../../threads/thread'

interface Waiting {
  readonly resolve: (rows: unknown[]) => void
  readonly reject: (error: Error) => void
}

/** So many readings at once: one that takes long leaves the other for whoever asks meanwhile. */
const most = 2

/**
 * Queries of lists, searches and exports, in threads of their own, so that a page of somebody's long list holds nobody up. Begun with the
 * first query; who asks for the next page only when the last one was taken keeps them from running ahead.
 */
export class ReaderThreads {
  private readonly threads: readonly ReaderThread[]

  constructor(file: string) {
    this.threads = Array.from({ length: most }, () => new ReaderThread(file))
  }

  query(sql: string, values: readonly unknown[] = []): Promise<unknown[]> {
    return this.free().ask('query', sql, values)
  }

  rows(sql: string, values: readonly unknown[] = []): Promise<RawRow[]> {
    return this.free().ask('rows', sql, values) as Promise<RawRow[]>
  }

  async close(): Promise<void> {
    await Promise.all(this.threads.map((thread) => thread.close()))
  }

  /** The one that fewest wait for; the first of such, so that a second one is begun only when it is needed. */
  private free(): ReaderThread {
    return this.threads.reduce((a, b) => (b.waits < a.waits ? b : a))
  }
}

/** Bytes come over as what every thread knows, and are read here as what Node reads. */
function withBuffers(row: unknown): unknown {
  const cells = Object.entries(row as object).map(([name, cell]: [string, unknown]) => [name, cell instanceof Uint8Array ? Buffer.from(cell) : cell])
  return Object.fromEntries(cells)
}

class ReaderThread {
  private worker: Worker | null = null
  private readonly waiting = new Map<number, Waiting>()
  private last = 0

  constructor(private readonly file: string) {}

  get waits(): number {
    return this.waiting.size
  }

  ask(under: Question['under'], sql: string, values: readonly unknown[]): Promise<unknown[]> {
    this.worker ??= this.start()
    const question: Question = { id: ++this.last, sql, values, under }
    return new Promise((resolve, reject) => {
      this.waiting.set(question.id, { resolve, reject })
      this.worker?.postMessage(question)
    })
  }

  async close(): Promise<void> {
    const { worker } = this
    this.worker = null
    await worker?.terminate()
  }

  private start(): Worker {
    const worker = startThread(import.meta.url, 'readerWorker', this.file)
    worker.on('message', (answer: Answer) => {
      const query = this.waiting.get(answer.id)
      this.waiting.delete(answer.id)
      if ('rows' in answer) query?.resolve(answer.hasBytes ? answer.rows.map(withBuffers) : answer.rows)
      else query?.reject(new Error(answer.problem))
    })
    worker.on('error', (error) => this.abort(worker, error))
    worker.on('exit', () => this.abort(worker, new Error('The thread of long readings has ended.')))
    // It keeps nobody from ending.
    worker.unref()
    return worker
  }

  /** The next query begins a new thread; what was asked of this one is not answered. */
  private abort(worker: Worker, error: unknown): void {
    if (this.worker === worker) this.worker = null
    for (const { reject } of this.waiting.values()) reject(error instanceof Error ? error : new Error(String(error)))
    this.waiting.clear()
  }
}
