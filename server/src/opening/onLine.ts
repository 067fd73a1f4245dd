import type { BalanceRow } from '@nemawashi/contract'

/** What of a lot is at work: free, on the line. What was set aside, stored or picked has left the order. */
export function onLine<B extends Pick<BalanceRow, 'standing' | 'placePurpose'>>(balances: readonly B[]): B[] {
  return balances.filter(({ standing, placePurpose }) => standing === 'released' && placePurpose === 'production')
}
