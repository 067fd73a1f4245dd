import type { Person } from '@nemawashi/contract'
import type { Request } from 'express'

/** Who asks. The people of the plant are an area of their own; a request only wants to know this. */
export interface Identity {
  personOf(request: Request): Promise<Person | null>
}
