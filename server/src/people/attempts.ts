import { ServerError } from '../kernel/serverError'

interface Limit {
  /** Failures before waiting begins. */
  readonly free: number
  readonly longestWaitMs: number
}

/** Who guesses at one name from one address waits soon; a name, and an address with many people behind it, only after many failures and never long. */
const limits = {
  pair: { free: 3, longestWaitMs: 5 * 60_000 },
  name: { free: 20, longestWaitMs: 60_000 },
  address: { free: 100, longestWaitMs: 30_000 },
  seal: { free: 5, longestWaitMs: 60_000 },
} as const satisfies Record<string, Limit>
const forgetAfterMs = 60 * 60_000

type Kind = keyof typeof limits

/** The name as it is counted: what a person types with other blanks, cases or forms of letters is the same name. */
export function nameKey(name: string): string {
  return name.normalize('NFKC').trim().replaceAll(/\s+/g, ' ').toLowerCase()
}

/**
 * Slows guessing of passwords: after a few failures one has to wait, each time twice as long. A try counts as failed from the moment it
 * begins, so that many at once are not all looked at; a success takes it back. Waits are measured by a clock that nobody sets.
 */
export class Attempts {
  private readonly failures = new Map<string, { count: number; lastAtMs: number; until: number }>()

  constructor(private readonly nowMs: () => number) {}

  /** A try to sign in; gives what to call when it succeeds. @throws {ServerError} `too_many_attempts`, with the seconds to wait. */
  signIn(name: string, address: string): () => void {
    const key = nameKey(name)
    return this.begin([
      ['pair', `${key} ${address}`],
      ['name', key],
      ['address', address],
    ])
  }

  /** A try of somebody signed in to sign with their password: nobody else's failures count against it. */
  seal(personId: string): () => void {
    return this.begin([['seal', personId]])
  }

  private begin(keys: readonly (readonly [Kind, string])[]): () => void {
    const now = this.nowMs()
    for (const [kind, key] of keys) {
      const entry = this.failures.get(`${kind} ${key}`)
      if (entry && entry.until > now) {
        const seconds = Math.ceil((entry.until - now) / 1000)
        throw new ServerError('too_many_attempts', `Too many failed attempts. Try again in ${seconds} s.`, { seconds })
      }
    }
    for (const [key, entry] of this.failures) if (now - entry.lastAtMs > forgetAfterMs) this.failures.delete(key)
    for (const [kind, key] of keys) this.count(kind, key, now)
    return () => {
      for (const [kind, key] of keys) this.takeBack(kind, key)
    }
  }

  private count(kind: Kind, key: string, now: number): void {
    const count = (this.failures.get(`${kind} ${key}`)?.count ?? 0) + 1
    const { free, longestWaitMs } = limits[kind]
    const over = count - free
    const wait = over < 0 ? 0 : Math.min(longestWaitMs, 1000 * 2 ** Math.min(over, 20))
    this.failures.set(`${kind} ${key}`, { count, lastAtMs: now, until: now + wait })
  }

  /** A success clears what is this person's own, and takes one try back from what others share. */
  private takeBack(kind: Kind, key: string): void {
    const entry = this.failures.get(`${kind} ${key}`)
    if (!entry) return
    if (kind === 'pair' || kind === 'seal' || entry.count <= 1) this.failures.delete(`${kind} ${key}`)
    else this.failures.set(`${kind} ${key}`, { ...entry, count: entry.count - 1, until: 0 })
  }
}
