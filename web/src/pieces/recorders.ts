import { bench, type Inspection, type Role } from '@nemawashi/contract'

/** Who records an inspection: whoever works at the bench, and who answers it on the spot. */
export function recordersOf(inspection: Pick<Inspection, 'spotAnswerer'> | null | undefined): readonly Role[] {
  const { spotAnswerer = null } = inspection ?? {}
  return spotAnswerer === null ? bench : [...bench, spotAnswerer]
}
