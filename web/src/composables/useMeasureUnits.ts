import { define } from '@nemawashi/contract'
import { unitsLike, usualUnits, type MeasureUnit } from '@nemawashi/core'
import { computed, type ComputedRef } from 'vue'
import { useThing } from '../shell/queries'

/** The plant's units of measure: all that values are read and converted by, and those that are offered. */
export interface MeasureUnits {
  readonly known: ComputedRef<readonly MeasureUnit[]>
  readonly inUse: ComputedRef<readonly MeasureUnit[]>
  /** Symbols that a value of this unit may be typed in, itself among them. */
  readonly symbolsLike: (symbol: string) => string[]
}

/** Until the plant's list is there, the usual ones stand in its stead: whoever types never waits for it. */
export function useMeasureUnits(): MeasureUnits {
  const { data } = useThing(define.knownUnits, {})
  const known = computed<readonly MeasureUnit[]>(() => data.value?.units ?? usualUnits)
  const inUse = computed(() => data.value?.units.filter(({ isActive }) => isActive) ?? usualUnits)
  const symbolsLike = (symbol: string): string[] => {
    if (!known.value.some((unit) => unit.symbol === symbol)) return [symbol]
    const offered = new Set(inUse.value.map((unit) => unit.symbol))
    return unitsLike(symbol, known.value)
      .map((unit) => unit.symbol)
      .filter((other) => other === symbol || offered.has(other))
  }
  return { known, inUse, symbolsLike }
}
