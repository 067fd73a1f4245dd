import type { LastEntry } from '../audit/auditChain'
import { ServerError } from '../base/serverError'

/** So far a clock may go back, as clocks do that are set right; what is stored meanwhile is stored at the last instant that was. */
const smallStepMs = 2 * 60_000
/** So far a clock may leap ahead while the server runs: a machine that slept over night has. */
const leapMs = 26 * 3_600_000

/**
 * Whether the clock of the machine can be believed. What a plant does rests on its day: gates that begin and end, keys that are forgotten,
 * dates in reports. A clock that says less than the last entry of the chain, or has leapt ahead of the time that passed, is wrong until an
 * administrator says that it is right; until then nothing is stored but who comes and goes.
 */
export class ClockGuard {
  /** What is wrong with the clock, in words; null while it is believed. */
  trouble: string | null = null
  private agreedSeq = -1
  private base: { readonly wallMs: number; readonly passedMs: number } | null = null

  /** @param passedMs milliseconds of a clock that nobody sets; null where there is none to compare with */
  constructor(private readonly passedMs: (() => number) | null) {}

  /**
   * The instant that a change is stored at.
   * @param last the last entry of the chain: what the clock may say at least
   * @param isAtAnyTime whether it may be stored while the clock is wrong, at the last instant that was believed
   * @throws {ServerError} `clock_wrong`
   */
  instantOf(wall: Date, last: Pick<LastEntry, 'seq' | 'at'>, isAtAnyTime: boolean): Date {
    const wallMs = wall.getTime()
    const minMs = last.at === null || last.seq <= this.agreedSeq ? -Infinity : Date.parse(last.at)
    const passedMs = this.passedMs?.() ?? null
    const aheadMs = this.base === null || passedMs === null ? 0 : wallMs - this.base.wallMs - (passedMs - this.base.passedMs)
    const wrong =
      wallMs < minMs - smallStepMs
        ? `It is ${wall.toISOString()} by the server's clock, but ${last.at ?? ''} was stored before.`
        : aheadMs > leapMs
          ? `The server's clock has leapt ahead by ${Math.round(aheadMs / 3_600_000)} hours to ${wall.toISOString()}.`
          : null
    this.trouble = wrong === null ? null : `${wrong} Nothing is stored until an administrator says that it is right.`
    if (this.trouble === null) {
      if (passedMs !== null) this.base = { wallMs, passedMs }
      return new Date(Math.max(wallMs, minMs))
    }
    if (!isAtAnyTime) throw new ServerError('clock_wrong', this.trouble, { clock: wall.toISOString(), last: last.at })
    return last.at === null ? wall : new Date(last.at)
  }

  /** Somebody who may says that the clock is right as it is now; it goes on from here. @param seq the last entry of the chain */
  agree(seq: number): void {
    this.agreedSeq = seq
    this.base = null
    this.trouble = null
  }
}
