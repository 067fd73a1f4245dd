import { randomUUID } from 'node:crypto'
import { noFellows, type Fellows } from '../database/fellows'

/** What a page says of itself: told to the page that it takes a topic from. */
export type PageFacts = Readonly<Record<string, string>>
type Send = (event: string, data: unknown) => void

interface Holder {
  readonly pageId: string
  readonly facts: PageFacts
  readonly toldAtMs: number
}

/** Pages of another server say so often that they are there; one that says nothing for three times as long is gone. */
const tellEveryMs = 10_000

/**
 * Pages that keep a connection open to be told at once what concerns them. A topic is held by one page: the one that took it last, on whichever
 * server of the plant; the page that held it before is told so. What is told is worth nothing later: a page that was away asks again.
 */
export class OpenPages {
  private readonly sends = new Map<
    string,
    { readonly send: Send; readonly end: () => void; readonly topics: Set<string>; readonly facts: PageFacts }
  >()
  private readonly holders = new Map<string, Holder>()
  private readonly heard = new Map<string, string | null>()
  private readonly telling: NodeJS.Timeout

  constructor(
    private readonly fellows: Fellows = noFellows,
    private readonly nowMs: () => number = () => performance.now(),
  ) {
    fellows.onTold(({ about, topic, pageId, facts, event, data, at }) => {
      if (about === 'page holds') this.take(String(topic), String(pageId), facts as PageFacts)
      else if (about === 'page left') this.leave(String(topic), String(pageId))
      else if (about === 'page is told') this.sends.get(String(pageId))?.send(String(event), data)
      else if (about === 'heard of') this.heard.set(String(topic), at as string | null)
    })
    this.telling = setInterval(() => {
      for (const [pageId, { topics, facts }] of this.sends) for (const topic of topics) fellows.tell({ about: 'page holds', topic, pageId, facts })
    }, tellEveryMs)
    this.telling.unref()
  }

  /** A page is there, and takes these topics. Gives its id and what says that it has gone. */
  open(topics: readonly string[], facts: PageFacts, send: Send, end: () => void): { readonly pageId: string; leave(): void } {
    const pageId = randomUUID()
    this.sends.set(pageId, { send, end, topics: new Set(topics), facts })
    for (const topic of topics) {
      this.take(topic, pageId, facts)
      this.fellows.tell({ about: 'page holds', topic, pageId, facts })
    }
    return {
      pageId,
      leave: () => {
        const { topics: held } = this.sends.get(pageId) ?? { topics: new Set<string>() }
        this.sends.delete(pageId)
        for (const topic of held) {
          this.leave(topic, pageId)
          this.fellows.tell({ about: 'page left', topic, pageId })
        }
      },
    }
  }

  /** Which page holds a topic; null where none does. */
  holderOf(topic: string): Omit<Holder, 'toldAtMs'> | null {
    const holder = this.holders.get(topic)
    if (holder === undefined) return null
    const isGone = !this.sends.has(holder.pageId) && this.nowMs() - holder.toldAtMs > 3 * tellEveryMs
    return isGone ? null : holder
  }

  /** Tells one page, wherever it is. */
  tell(pageId: string, event: string, data: unknown): void {
    const page = this.sends.get(pageId)
    if (page) page.send(event, data)
    else this.fellows.tell({ about: 'page is told', pageId, event, data })
  }

  /** Notes that a topic gave a sign of life, or (null) that it has gone; tells the page that holds it. */
  note(topic: string, at: string | null, event: string, data: unknown): void {
    this.heard.set(topic, at)
    this.fellows.tell({ about: 'heard of', topic, at })
    const holder = this.holderOf(topic)
    if (holder) this.tell(holder.pageId, event, data)
  }

  /** When a topic gave its last sign of life; null where it gave none since the servers started, or has gone. */
  lastHeard(topic: string): string | null {
    return this.heard.get(topic) ?? null
  }

  /** Ends every connection. */
  close(): void {
    clearInterval(this.telling)
    for (const { end } of this.sends.values()) end()
  }

  private take(topic: string, pageId: string, facts: PageFacts): void {
    const before = this.holders.get(topic)
    this.holders.set(topic, { pageId, facts, toldAtMs: this.nowMs() })
    if (before === undefined || before.pageId === pageId) return
    const page = this.sends.get(before.pageId)
    page?.topics.delete(topic)
    page?.send('replaced', { topic, ...facts })
  }

  private leave(topic: string, pageId: string): void {
    if (this.holders.get(topic)?.pageId === pageId) this.holders.delete(topic)
  }
}
