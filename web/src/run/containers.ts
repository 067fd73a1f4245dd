/** Amounts typed in a row: `120 120 96`. What is no number stays NaN, so that it is refused and not dropped. */
export function parseContainers(text: string): number[] {
  return text
    .trim()
    .split(/[\s;]+/)
    .filter((word) => word !== '')
    .map(Number)
}
