/** Amounts typed in a row: `120 120 96`. What is no number stays NaN, so that it is refused and not dropped. */
export function parseContainers(text: string): number[] {
  return text
    .trim()
    .split(/[\s;]+/)
    .filter((word) => word !== '')
    .map(Number)
}

/** Labels K-01, K-02 … in the order of the delivery note. */
export function labelled(amounts: readonly number[]): { label: string; quantity: number }[] {
  return amounts.map((quantity, i) => ({ label: `K-${String(i + 1).padStart(2, '0')}`, quantity }))
}
