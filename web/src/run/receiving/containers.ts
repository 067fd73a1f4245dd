import { typedQuantity } from '../../format/format'
/** Amounts typed in a row: `120 120 96`, in whole steps of the unit. What is no number stays NaN, so that it is refused and not dropped. */
export function parseContainers(text: string, unit = 'piece'): number[] {
  return text
    .trim()
    .split(/[\s;]+/)
    .filter((word) => word !== '')
    .map((word) => typedQuantity(word, unit))
}

/** What a delivery mostly comes in: usual containers, full ones first, with what is left in the last; nothing where it is no whole number. */
export function usualContainers(quantity: number, each: number | null): number[] {
  if (each === null || !Number.isSafeInteger(quantity) || quantity < 1 || Math.ceil(quantity / each) > 200) return []
  const full = Math.floor(quantity / each)
  const left = quantity - full * each
  return [...Array.from({ length: full }, () => each), ...(left > 0 ? [left] : [])]
}
