import type { ReadingInput } from '@nemawashi/contract'

/** A reading that was typed and is not known to be stored yet. */
export interface WaitingReading extends ReadingInput {
  readonly inspectionId: string
  /** Who typed it: it is sent in their name and in nobody else's. */
  readonly personId: string
  /** Order in which it was typed. */
  readonly sequence: number
  /** Why the server did not take it; what was typed is kept until a person takes it out. */
  readonly refusal: string | null
}

/** Where waiting readings survive a reload: IndexedDB in the browser, memory in tests. */
export interface OutboxStore {
  put(reading: WaitingReading): Promise<void>
  remove(ids: readonly string[]): Promise<void>
  all(): Promise<WaitingReading[]>
}

export interface SendFailure {
  /** It may go through later: of everything that waits, of this inspection alone, or never as it is. */
  readonly isTemporary: 'all' | 'this' | false
  readonly message: string
  /** The one reading that was refused, when the server named it. */
  readonly readingId: string | null
}

export type Send = (inspectionId: string, readings: readonly ReadingInput[], personId: string) => Promise<SendFailure | null>

const maxAtOnce = 100

/**
 * Keeps what was typed until the server has it, and sends it once, in order. A reading keeps its id over reloads and repeats,
 * so that one that arrived without its answer coming back is not stored twice.
 */
export class Outbox {
  private waiting: WaitingReading[] = []
  private sending: Promise<void> | null = null
  private sequence = 0
  isUnreachable = false
  /** False once the browser would not keep something: it is sent all the same, and lost if the page is closed before. */
  isKept = true

  constructor(
    private readonly store: OutboxStore,
    private readonly send: Send,
    private readonly changed: () => void,
    private readonly person: () => string | null,
  ) {}

  /** Takes up what an earlier visit left. */
  async restore(): Promise<void> {
    const left = await this.store.all().catch(() => this.cannotKeep([]))
    this.waiting = [...left, ...this.waiting.filter((reading) => !left.some(({ id }) => id === reading.id))].sort((a, b) => a.sequence - b.sequence)
    this.sequence = (this.waiting.at(-1)?.sequence ?? 0) + 1
    this.changed()
  }

  of(inspectionId: string): WaitingReading[] {
    return this.waiting.filter((reading) => reading.inspectionId === inspectionId)
  }

  /** What other people typed here and have not sent: it waits until they sign in. */
  ofOthers(): WaitingReading[] {
    return this.waiting.filter((reading) => reading.personId !== this.person())
  }

  /** Keeps a reading, first in memory so that the screen follows at once, then on the disk, then sends. */
  async add(inspectionId: string, inputs: readonly ReadingInput[]): Promise<void> {
    const personId = this.person() ?? ''
    const added = inputs.map((input) => ({ ...input, inspectionId, personId, sequence: this.sequence++, refusal: null }))
    this.waiting.push(...added)
    this.changed()
    try {
      for (const reading of added) await this.store.put(reading)
    } catch {
      this.cannotKeep(null)
    }
    void this.flush()
  }

  /** Takes a refused reading out, at a person's wish. */
  async takeOut(id: string): Promise<void> {
    await this.drop([id])
  }

  /** Sends until nothing is left or the server cannot be reached. */
  flush(): Promise<void> {
    this.sending ??= this.sendAll().finally(() => (this.sending = null))
    return this.sending
  }

  private async sendAll(): Promise<void> {
    // What fails of one inspection keeps no other back; it is tried again with the next round.
    const later = new Set<string>()
    this.isUnreachable = false
    for (;;) {
      const own = this.waiting.filter((reading) => reading.refusal === null && reading.personId === this.person() && !later.has(reading.inspectionId))
      const [first] = own
      if (!first) return later.size > 0 ? this.changed() : undefined
      const batch = own.filter((reading) => reading.inspectionId === first.inspectionId).slice(0, maxAtOnce)
      const failure = await this.send(
        first.inspectionId,
        batch.map(({ inspectionId: _, sequence: __, refusal: ___, personId: ____, ...input }) => input),
        first.personId,
      )
      if (failure !== null && failure.isTemporary !== false) {
        this.isUnreachable = true
        if (failure.isTemporary === 'all') return this.changed()
        later.add(first.inspectionId)
      } else if (failure === null) await this.drop(batch.map((reading) => reading.id))
      else await this.refuse(failure.readingId === null ? batch : batch.filter((reading) => reading.id === failure.readingId), failure.message)
    }
  }

  private cannotKeep<T>(instead: T): T {
    this.isKept = false
    this.changed()
    return instead
  }

  private async drop(ids: readonly string[]): Promise<void> {
    this.waiting = this.waiting.filter((reading) => !ids.includes(reading.id))
    await this.store.remove(ids).catch(() => this.cannotKeep(null))
    this.changed()
  }

  private async refuse(readings: readonly WaitingReading[], refusal: string): Promise<void> {
    const ids = new Set(readings.map((reading) => reading.id))
    this.waiting = this.waiting.map((reading) => (ids.has(reading.id) ? { ...reading, refusal } : reading))
    for (const reading of this.waiting) if (ids.has(reading.id)) await this.store.put(reading).catch(() => this.cannotKeep(null))
    this.changed()
  }
}
