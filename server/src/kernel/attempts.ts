import { ServerError } from './serverError'
import type { Clock } from './unitOfWork'

const free = { name: 3, address: 30 }
const longestWaitMs = 5 * 60_000
const forgetAfterMs = 60 * 60_000

/**
 * Slows guessing of passwords: after a few failures a name (or an address that tries many names) has to wait,
 * each time twice as long, up to five minutes. A success clears the name.
 */
export class Attempts {
  private readonly failures = new Map<string, { count: number; lastAtMs: number; until: number }>()

  constructor(private readonly clock: Clock) {}

  /** @throws {ServerError} `too_many_attempts`, with the seconds to wait. */
  check(name: string, address: string): void {
    const now = this.clock.now().getTime()
    for (const key of this.keys(name, address)) {
      const entry = this.failures.get(key)
      if (entry && entry.until > now) {
        const seconds = Math.ceil((entry.until - now) / 1000)
        throw new ServerError('too_many_attempts', `Too many failed attempts. Try again in ${seconds} s.`, { seconds })
      }
    }
  }

  failed(name: string, address: string): void {
    const now = this.clock.now().getTime()
    for (const [key, entry] of this.failures) if (now - entry.lastAtMs > forgetAfterMs) this.failures.delete(key)
    for (const key of this.keys(name, address)) {
      const count = (this.failures.get(key)?.count ?? 0) + 1
      const over = count - (key.startsWith('name') ? free.name : free.address)
      const wait = over < 0 ? 0 : Math.min(longestWaitMs, 1000 * 2 ** over)
      this.failures.set(key, { count, lastAtMs: now, until: now + wait })
    }
  }

  succeeded(name: string): void {
    this.failures.delete(`name ${name.toLowerCase()}`)
  }

  private keys(name: string, address: string): string[] {
    return [`name ${name.toLowerCase()}`, `address ${address}`]
  }
}
