import { ServerError } from '../kernel/base/serverError'
import type { Attempt, AttemptStore, Kept } from './attemptStore'

interface Limit {
  /** Failures before waiting begins. */
  readonly free: number
  readonly longestWaitMs: number
}

/**
 * Who guesses at one name from one address waits soon; a name, and an address with many people behind it, only after many failures and never
 * long. Strangers who guess at a name keep its owner from nothing: a device that they signed in on before is counted by itself, and an
 * address from which nobody failed gets its turn, for so many such addresses an hour.
 */
const limits = {
  pair: { free: 3, longestWaitMs: 5 * 60_000 },
  name: { free: 20, longestWaitMs: 60_000 },
  address: { free: 100, longestWaitMs: 30_000 },
  seal: { free: 5, longestWaitMs: 60_000 },
  device: { free: 5, longestWaitMs: 60_000 },
  fresh: { free: 30, longestWaitMs: 60_000 },
  code: { free: 5, longestWaitMs: 15 * 60_000 },
} as const satisfies Record<string, Limit>

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
  constructor(private readonly store: AttemptStore) {}

  /**
   * A try to sign in; gives what to call when it succeeds.
   * @param device number of a device that this person signed in on before
   * @throws {ServerError} `too_many_attempts`, with the seconds to wait.
   */
  signIn(name: string, address: string, device: string | null = null): Promise<() => Promise<void>> {
    const key = nameKey(name)
    if (device !== null) return this.begin([['device', device]])
    return this.begin([
      ['pair', `${key} ${address}`],
      ['name', key],
      ['address', address],
      ['fresh', key],
    ])
  }

  /** A try of somebody signed in to sign with their password: nobody else's failures count against it. */
  seal(personId: string): Promise<() => Promise<void>> {
    return this.begin([['seal', personId]])
  }

  /** A try of a one-time code by somebody whose password was right: there are only a million. */
  code(personId: string): Promise<() => Promise<void>> {
    return this.begin([['code', personId]])
  }

  private async begin(attempts: readonly (readonly [Kind, string])[]): Promise<() => Promise<void>> {
    const keyOf = ([kind, key]: readonly [Kind, string]) => `${kind} ${key}`
    const keys = attempts.map(keyOf)
    // What this try is counted by: also what it is taken back from.
    let counted: typeof attempts = []
    const seconds = await this.store.change(keys, (kept, now) => {
      const waits = new Map(attempts.map((each) => [each[0], (kept.get(keyOf(each))?.untilMs ?? 0) - now]))
      const hasFailed = attempts.some((each) => (each[0] === 'pair' || each[0] === 'address') && kept.has(keyOf(each)))
      const isFresh = !hasFailed && (waits.get('name') ?? 0) > 0
      // A fresh address is slowed by its like, and any other by the name.
      waits.delete(isFresh ? 'name' : 'fresh')
      const waiting = Math.max(0, ...waits.values())
      if (waiting > 0) return Math.ceil(waiting / 1000)
      counted = attempts.filter(([kind]) => isFresh || kind !== 'fresh')
      for (const each of counted) count(kept, keyOf(each), each[0], now)
      return 0
    })
    if (seconds > 0) throw new ServerError('too_many_attempts', `Too many failed attempts. Try again in ${seconds} s.`, { seconds })
    return () => this.store.change(keys, (kept) => counted.forEach((each) => takeBack(kept, keyOf(each), each[0])))
  }
}

function count(kept: Kept, key: string, kind: Kind, now: number): void {
  const failures = (kept.get(key)?.count ?? 0) + 1
  const { free, longestWaitMs } = limits[kind]
  const over = failures - free
  const wait = over < 0 ? 0 : Math.min(longestWaitMs, 1000 * 2 ** Math.min(over, 20))
  kept.set(key, { count: failures, lastAtMs: now, untilMs: now + wait })
}

/** A success clears what is this person's own, and takes one try back from what others share. */
function takeBack(kept: Kept, key: string, kind: Kind): void {
  const entry: Attempt | undefined = kept.get(key)
  if (!entry) return
  if (kind === 'pair' || kind === 'seal' || kind === 'code' || kind === 'device' || entry.count <= 1) kept.delete(key)
  else kept.set(key, { ...entry, count: entry.count - 1, untilMs: 0 })
}
