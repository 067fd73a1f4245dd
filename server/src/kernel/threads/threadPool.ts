import { availableParallelism } from 'node:os'
import type { Worker } from 'node:worker_threads'
import type { Step } from './progress'
import { ServerError } from '../base/serverError'
import { startThread } from './thread'

/**
 * Work that takes a processor for longer than others may wait: named, so that a thread finds it by its name, and made of nothing but what it
 * is given. What goes in and comes out is copied: plain data, or bytes.
 */
export interface HeavyTask<In, Out> {
  readonly name: string
  /** @param report says how far it has come */
  readonly run: (given: In, report: Tell) => Promise<Out> | Out
}

export type Tell = (done: number, total: number) => void

/** What a thread is asked, and what it answers. */
export interface PoolTask {
  readonly id: number
  readonly name: string
  readonly given: unknown
}
export type Answered =
  | { readonly isReady: true }
  | { readonly id: number; readonly step: Step }
  | { readonly id: number; readonly result: unknown }
  | { readonly id: number; readonly problem: string }

interface Waiting {
  readonly asked: PoolTask
  readonly tell: Tell
  readonly resolve: (result: unknown) => void
  readonly reject: (error: Error) => void
}
interface Thread {
  readonly worker: Worker
  /** It has loaded what it needs: what it is given takes its own time from here on. */
  isReady: boolean
  busy: Waiting | null
  timer: NodeJS.Timeout | null
}

export interface PoolLimits {
  /** Threads at once. */
  readonly most: number
  /** So many may wait for a thread; who comes then is asked to come again. */
  readonly maxWaiting: number
  /** Nothing that is offered takes so long; what does is ended, and its asker told. */
  readonly maxMs: number
  /** A thread without work for so long is let go, with its memory. */
  readonly idleMs: number
}
const usual: PoolLimits = { most: Math.max(2, Math.min(4, availableParallelism() - 1)), maxWaiting: 100, maxMs: 120_000, idleMs: 20_000 }
const memoryMb = 1024
const maxMsToStart = 120_000

/**
 * A few threads for heavy tasks, begun when there is something to do and kept for the next. First come, first served; a task that fails or
 * does not end takes nobody else's with it.
 */
export class ThreadPool {
  private readonly limits: PoolLimits
  private readonly threads: Thread[] = []
  private readonly queue: Waiting[] = []
  private last = 0
  private isClosed = false

  /**
   * @param besides `import.meta.url` of who knows the file
   * @param file the script that answers, without its ending
   * @param limits what is not usual
   */
  constructor(
    private readonly besides: string,
    private readonly file: string,
    limits: Partial<PoolLimits> = {},
  ) {
    this.limits = { ...usual, ...limits }
  }

  /** Threads that stand ready or work. */
  get size(): number {
    return this.threads.length
  }

  /**
   * Has a task done by a thread. @throws ServerError `too_busy` when too many wait, or when it does not end in two minutes; whatever the task
   * throws otherwise, as an Error of its words
   */
  run<In, Out>(task: HeavyTask<In, Out>, given: In, tell: Tell = () => undefined): Promise<Out> {
    if (this.queue.length >= this.limits.maxWaiting)
      return Promise.reject(new ServerError('too_busy', `${this.limits.maxWaiting} papers and files wait to be made. Ask again in a minute.`))
    return new Promise((resolve, reject) => {
      this.queue.push({ asked: { id: ++this.last, name: task.name, given }, tell, resolve: resolve as (result: unknown) => void, reject })
      this.next()
    })
  }

  async close(): Promise<void> {
    this.isClosed = true
    for (const { reject } of this.queue.splice(0)) reject(new Error('The server is closing.'))
    await Promise.all(this.threads.map(({ worker }) => worker.terminate()))
  }

  private next(): void {
    if (this.isClosed || this.queue.length === 0) return
    const thread = this.threads.find(({ busy }) => busy === null) ?? (this.threads.length < this.limits.most ? this.start() : null)
    if (!thread) return
    const waiting = this.queue.shift() as Waiting
    thread.busy = waiting
    this.begin(thread, waiting.asked.name)
    try {
      thread.worker.postMessage(waiting.asked)
    } catch (error) {
      this.done(thread)
      waiting.reject(error as Error)
    }
  }

  private start(): Thread {
    const worker = startThread(this.besides, this.file, null, { maxOldGenerationSizeMb: memoryMb })
    const thread: Thread = { worker, isReady: false, busy: null, timer: null }
    worker.on('message', (answer: Answered) => {
      const waiting = thread.busy
      if ('isReady' in answer) {
        thread.isReady = true
        return waiting ? this.begin(thread, waiting.asked.name) : undefined
      }
      if ('step' in answer) return waiting?.tell(answer.step.done, answer.step.total)
      this.done(thread)
      if ('result' in answer) waiting?.resolve(answer.result)
      else waiting?.reject(new Error(answer.problem))
      this.next()
    })
    worker.on('error', (error) => this.end(thread, error instanceof Error ? error : new Error(String(error))))
    worker.on('exit', () => this.end(thread, new Error('The thread has ended.')))
    // It keeps nobody from ending.
    worker.unref()
    this.threads.push(thread)
    return thread
  }

  private done(thread: Thread): void {
    thread.busy = null
    this.after(thread, this.limits.idleMs, new Error('The thread was let go.'))
  }

  /** The time that a task may take, which begins when its thread stands ready. */
  private begin(thread: Thread, name: string): void {
    const { maxMs } = this.limits
    if (thread.isReady) this.after(thread, maxMs, new ServerError('too_busy', `${name} was not made in ${maxMs / 1000} s. Ask for less of it.`))
    else this.after(thread, maxMsToStart, new ServerError('too_busy', `No thread began with ${name} in ${maxMsToStart / 1000} s.`))
  }

  /** Ends a thread after so long, unless something comes in between. */
  private after(thread: Thread, ms: number, error: Error): void {
    if (thread.timer) clearTimeout(thread.timer)
    thread.timer = setTimeout(() => {
      this.end(thread, error)
      void thread.worker.terminate()
    }, ms)
    // It keeps nobody from ending, either.
    if (thread.busy === null) thread.timer.unref()
  }

  /** A thread that is no more: who waited for it is told, the next one gets a new thread. */
  private end(thread: Thread, error: Error): void {
    const at = this.threads.indexOf(thread)
    if (at < 0) return
    this.threads.splice(at, 1)
    if (thread.timer) clearTimeout(thread.timer)
    thread.busy?.reject(error)
    this.next()
  }
}
