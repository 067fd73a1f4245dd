import { Agent, request } from 'node:http'

export interface Row {
  readonly what: string
  readonly ours: string
  readonly bare: string
  readonly ratio: string
  readonly target: string
  /** What the same bench said before the house was recast, where it was measured then. */
  readonly before?: string
  readonly isMet: boolean
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.floor(sorted.length / 2)] ?? NaN
}

/** Median time of a repeated task, in ms; the first tenth warms up and does not count. */
export async function medianMs(times: number, task: (i: number) => unknown): Promise<number> {
  const taken: number[] = []
  for (let i = 0; i < times; i++) {
    const before = performance.now()
    await task(i)
    taken.push(performance.now() - before)
  }
  return median(taken.slice(Math.floor(times / 10)))
}

/** A client as light as Node has one: one connection that stays open. */
export class Wire {
  private readonly agent = new Agent({ keepAlive: true, maxSockets: 1 })
  cookie = ''

  constructor(private readonly base: string) {}

  send(method: string, path: string, body?: unknown): Promise<{ status: number; text: string }> {
    const text = body === undefined ? '' : JSON.stringify(body)
    return new Promise((resolve, reject) => {
      const sent = request(
        `${this.base}${path}`,
        {
          method,
          agent: this.agent,
          headers: { cookie: this.cookie, ...(text === '' ? {} : { 'content-type': 'application/json', 'content-length': Buffer.byteLength(text) }) },
        },
        (response) => {
          const set = response.headers['set-cookie']?.[0]
          if (set) this.cookie = set.split(';')[0] ?? ''
          const chunks: Buffer[] = []
          response.on('data', (chunk: Buffer) => chunks.push(chunk))
          response.on('end', () => resolve({ status: response.statusCode ?? 0, text: Buffer.concat(chunks).toString() }))
        },
      )
      sent.on('error', reject)
      sent.end(text)
    })
  }

  close(): void {
    this.agent.destroy()
  }
}
