import type { SpotAnswerer } from '@nemawashi/core'

/** Who receives and puts away. */
export const clerk = ['receivingClerk', 'qualityEngineer', 'administrator'] as const
/** Who works at the bench, on whatever is to be inspected. */
export const bench = ['inspector', 'qualityEngineer'] as const

/** Who records an inspection: whoever works at the bench, and who answers it on the spot; null: nobody besides. */
export function recordersOf(spotAnswerer: SpotAnswerer | null) {
  return spotAnswerer === null ? bench : [...bench, spotAnswerer]
}
