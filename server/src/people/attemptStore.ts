/** Failures of one kind on one name or address. Times in milliseconds of the store's own clock. */
export interface Attempt {
  readonly count: number
  readonly lastAtMs: number
  /** Nothing is looked at before. */
  readonly untilMs: number
}

export type Kept = Map<string, Attempt>

/** Keeps failed tries for all who serve the plant. */
export interface AttemptStore {
  /** Shows what is kept under these keys, and keeps what `change` made of it, as one step that nobody comes into. */
  change<T>(keys: readonly string[], change: (kept: Kept, nowMs: number) => T): Promise<T>
}

export const forgetAfterMs = 60 * 60_000

/** For the one process that serves a plant in a file. */
export class AttemptsInMemory implements AttemptStore {
  constructor(
    private readonly nowMs: () => number,
    readonly kept: Kept = new Map(),
  ) {}

  async change<T>(_keys: readonly string[], change: (kept: Kept, nowMs: number) => T): Promise<T> {
    const now = this.nowMs()
    for (const [key, entry] of this.kept) if (now - entry.lastAtMs > forgetAfterMs) this.kept.delete(key)
    return change(this.kept, now)
  }
}
