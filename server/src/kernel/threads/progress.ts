import { setImmediate } from 'node:timers/promises'

/** How far a long request has come, by its key. */
export interface Step {
  readonly done: number
  readonly total: number
}

/** Says how far it has come, and lets others have their turn. */
export type Report = (done: number, total: number) => Promise<void>

/** Requests that are under way and say how far they are; what has ended is not kept. */
export class Progress {
  private readonly steps = new Map<string, Step>()

  of(key: string): Step | null {
    return this.steps.get(key) ?? null
  }

  /** Runs something long that reports under the key; without a key nobody asks, and it only lets others have their turn. */
  async follow<T>(key: string | null, run: (report: Report) => Promise<T>): Promise<T> {
    try {
      return await run(async (done, total) => {
        if (key !== null) this.steps.set(key, { done, total })
        await setImmediate()
      })
    } finally {
      if (key !== null) this.steps.delete(key)
    }
  }
}
