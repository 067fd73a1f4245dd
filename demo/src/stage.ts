import type { ApiClient } from '@nemawashi/contract/client'
import type { Chance } from './chance'
import type { Bench } from './inspecting'
import type { MasterData } from './seedMaster'

export const hour = 3_600_000
export const day = 24 * hour

/** Something that happens at a moment; what happens plans what follows from it. */
export interface Happening {
  at: number
  do: () => Promise<void>
}

/** Who and what takes part, and what time it is. */
export interface Stage {
  by: (signInName: string) => ApiClient
  master: MasterData
  chance: Chance
  bench: Bench
  now: () => number
  advance: (to: number) => void
  morning: number
  until: number
}
