import type { Pickable } from '@nemawashi/contract'
import { amount } from '../../format/format'

/** A lot in a store where it is chosen: its number, its part, where it is, and how much of it. */
export const pickableWords = ({ code, name, quantity, unit }: Pickable): string => `${code} · ${name}: ${amount(quantity, unit)}`
