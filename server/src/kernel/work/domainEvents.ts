import type { Work } from './unitOfWork'

/**
 * What can happen, with its facts. Each area adds its own:
 * `declare module '../kernel/work/domainEvents' { interface DomainEventFacts { … } }`
 */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- filled by the areas
export interface DomainEventFacts {}

type Subscriber<N extends keyof DomainEventFacts> = (work: Work, facts: DomainEventFacts[N]) => Promise<void>

/**
 * What follows from something in an area that the one where it happened does not know. Subscribers run in the order in which they were
 * added, inside the transaction of the change: when one refuses, nothing of the change is kept.
 */
export class DomainEvents {
  private readonly subscribers = new Map<keyof DomainEventFacts, Subscriber<never>[]>()

  on<N extends keyof DomainEventFacts>(name: N, subscriber: Subscriber<N>): void {
    this.subscribers.set(name, [...(this.subscribers.get(name) ?? []), subscriber as Subscriber<never>])
  }

  async emit<N extends keyof DomainEventFacts>(work: Work, name: N, facts: DomainEventFacts[N]): Promise<void> {
    for (const subscriber of (this.subscribers.get(name) ?? []) as Subscriber<N>[]) await subscriber(work, facts)
  }
}
