import { CoreError, serialsIn } from '@nemawashi/core'

/** Serial numbers as they are typed so far: what is understood, or what is wrong with it. */
export function readSerials(text: string): { readonly serials: string[]; readonly problem: string | null } {
  try {
    return { serials: serialsIn(text), problem: null }
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    return { serials: [], problem: error.message }
  }
}
