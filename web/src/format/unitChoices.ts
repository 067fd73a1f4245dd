import type { BalanceRow } from '@nemawashi/contract'

/** What of a lot can be meant: all of it, or one of the containers and serial numbers that have pieces in these balances. */
export function unitChoices(balances: readonly BalanceRow[]): { readonly value: string | null; readonly title: string }[] {
  const labels = new Map(
    balances.flatMap(({ containerId, containerLabel }) => (containerId === null ? [] : [[containerId, containerLabel ?? ''] as const])),
  )
  return [{ value: null, title: 'all of the lot' }, ...[...labels].map(([value, title]) => ({ value, title }))]
}
