/** What of an order says whether it can still be called off. */
export interface OrderSoFar {
  readonly state: 'planned' | 'released' | 'finished' | 'cancelled'
  /** Pieces that came to be by it, whatever became of them. */
  readonly made: number
}

/** Whether an order can be called off: as long as it has made nothing. Afterwards its pieces are accounted for, and it is finished. */
export function isOrderCancellable({ state, made }: OrderSoFar): boolean {
  return (state === 'planned' || state === 'released') && made === 0
}
