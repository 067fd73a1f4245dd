import type { Worker } from 'node:worker_threads'
import type { Answer, Question } from './readerWorker'
import { startThread } from '../thread'

interface Waiting {
  readonly resolve: (rows: unknown[]) => void
  readonly reject: (error: Error) => void
}

/**
 * Queries of long readings, exports above all, in a thread of their own, so that a page of 200 rows of somebody's export holds nobody
 * up. One thread, begun with the first query; who asks for the next page only when the last one was taken keeps it from running ahead.
 */
export class ReaderThread {
  private worker: Worker | null = null
  private readonly waiting = new Map<number, Waiting>()
  private last = 0

  constructor(private readonly file: string) {}

  query(sql: string, values: readonly unknown[] = []): Promise<unknown[]> {
    this.worker ??= this.start()
    const question: Question = { id: ++this.last, sql, values }
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
      const asked = this.waiting.get(answer.id)
      this.waiting.delete(answer.id)
      if ('rows' in answer) asked?.resolve(answer.rows)
      else asked?.reject(new Error(answer.problem))
    })
    worker.on('error', (error) => this.giveUp(worker, error))
    worker.on('exit', () => this.giveUp(worker, new Error('The thread of long readings has ended.')))
    // It keeps nobody from ending.
    worker.unref()
    return worker
  }

  /** The next query begins a new thread; what was asked of this one is not answered. */
  private giveUp(worker: Worker, error: unknown): void {
    if (this.worker === worker) this.worker = null
    for (const { reject } of this.waiting.values()) reject(error instanceof Error ? error : new Error(String(error)))
    this.waiting.clear()
  }
}
