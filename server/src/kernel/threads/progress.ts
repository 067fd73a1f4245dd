import { setImmediate } from 'node:timers/promises'
import { noFellows, type Fellows } from '../database/fellows'

/** How far a long request has come, by its key. */
export interface Step {
  readonly done: number
  readonly total: number
}

/** Says how far it has come, and lets others have their turn. */
export type Report = (done: number, total: number) => Promise<void>

/** The others are told at most so often. */
const tellEveryMs = 200
/** What another server has told nothing of for so long has ended with it. */
const silentForMs = 30_000

/**
 * Requests that are under way and say how far they are; what has ended is not kept. Where several servers are at one plant each knows of the
 * requests of all: whoever asks may come to another one than the request did.
 */
export class Progress {
  private readonly steps = new Map<string, Step>()
  private readonly elsewhere = new Map<string, Step & { readonly toldAtMs: number }>()

  constructor(
    private readonly fellows: Fellows = noFellows,
    private readonly nowMs: () => number = () => performance.now(),
  ) {
    fellows.onTold(({ about, key, done, total }) => {
      if (about !== 'progress' || typeof key !== 'string') return
      if (typeof done === 'number' && typeof total === 'number') this.elsewhere.set(key, { done, total, toldAtMs: this.nowMs() })
      else this.elsewhere.delete(key)
    })
  }

  of(key: string): Step | null {
    const here = this.steps.get(key)
    if (here) return here
    const heard = this.elsewhere.get(key)
    if (heard === undefined || this.nowMs() - heard.toldAtMs > silentForMs) return null
    return { done: heard.done, total: heard.total }
  }

  /** Runs something long that reports under the key; without a key nobody asks, and it only lets others have their turn. */
  async follow<T>(key: string | null, run: (report: Report) => Promise<T>): Promise<T> {
    let toldAtMs = Number.NEGATIVE_INFINITY
    try {
      return await run(async (done, total) => {
        if (key !== null) {
          this.steps.set(key, { done, total })
          if (this.nowMs() - toldAtMs > tellEveryMs) {
            toldAtMs = this.nowMs()
            this.fellows.tell({ about: 'progress', key, done, total })
          }
        }
        await setImmediate()
      })
    } finally {
      if (key !== null) {
        this.steps.delete(key)
        if (toldAtMs > Number.NEGATIVE_INFINITY) this.fellows.tell({ about: 'progress', key })
      }
    }
  }
}
