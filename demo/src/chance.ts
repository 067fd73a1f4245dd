/** Chance from a fixed seed: the same plant each time. */
export class Chance {
  private state: number

  constructor(seed: number) {
    this.state = seed >>> 0
  }

  /** 0 ≤ x < 1. Mulberry32, a small public-domain generator: good enough for a demo, for nothing else. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0
    let t = this.state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }

  whole(from: number, to: number): number {
    return from + Math.floor(this.next() * (to - from + 1))
  }

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.next() * list.length)] as T
  }

  /** Standard normal, Box–Muller. */
  normal(): number {
    return Math.sqrt(-2 * Math.log(1 - this.next())) * Math.cos(2 * Math.PI * this.next())
  }

  bytes(count: number): Uint8Array {
    return Uint8Array.from({ length: count }, () => Math.floor(this.next() * 256))
  }
}

/** A process that one supplier runs: it wanders slowly around its setting, is set anew now and then, and scatters from piece to piece. */
export class Process {
  private level = 0
  private setting: number

  constructor(
    private readonly chance: Chance,
    private readonly mean: number,
    private readonly scatter: number,
  ) {
    this.setting = 0.35 * scatter * chance.normal()
  }

  /** Begins the next lot: the level wanders on, sometimes somebody sets the machine. */
  nextLot(): void {
    this.level = 0.8 * this.level + 0.35 * this.scatter * this.chance.normal()
    if (this.chance.next() < 0.12) this.setting = 0.6 * this.scatter * this.chance.normal()
  }

  piece(): number {
    return this.mean + this.setting + this.level + this.scatter * this.chance.normal()
  }
}
