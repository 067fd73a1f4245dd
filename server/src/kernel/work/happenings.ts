import type { Work } from './unitOfWork'

/**
 * What can happen, with its facts. Each area adds its own:
 * `declare module 'happenings' { interface Happened { … } }`
 */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- filled by the areas
export interface Happened {}

type Hearer<N extends keyof Happened> = (work: Work, facts: Happened[N]) => Promise<void>

/**
 * What follows from something in an area that the one where it happened does not know. Hearers run in the order in which they were
 * added, inside the transaction of the change: when one refuses, nothing of the change is kept.
 */
export class Happenings {
  private readonly hearers = new Map<keyof Happened, Hearer<never>[]>()

  on<N extends keyof Happened>(name: N, hearer: Hearer<N>): void {
    this.hearers.set(name, [...(this.hearers.get(name) ?? []), hearer as Hearer<never>])
  }

  async tell<N extends keyof Happened>(work: Work, name: N, facts: Happened[N]): Promise<void> {
    for (const hearer of (this.hearers.get(name) ?? []) as Hearer<N>[]) await hearer(work, facts)
  }
}
