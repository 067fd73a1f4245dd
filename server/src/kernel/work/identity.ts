import type { Owed, Person } from '@nemawashi/contract'
import type { Request } from 'express'
import type { UnitOfWork } from './unitOfWork'

/** Who asks. The people of the plant are an area of their own; a request only wants to know this. */
export interface Identity {
  personOf(request: Request): Promise<Person | null>
  /** How long ago who asks has shown who they are, in minutes; null where nobody is signed in. */
  minutesSinceSignIn(request: Request): Promise<number | null>
  /** What who asks has to do before anything else; null where nothing, or where nobody is signed in. */
  owedBy(request: Request): Promise<Owed | null>
  /** Whether who asked is still signed in; asking shows nobody at the page. */
  isSignedIn(request: Request): Promise<boolean>
  /** Keeps who was seen when, and ends the sessions that have run out or that nobody is at any more. */
  tidy(work: UnitOfWork, now: Date): Promise<void>
}
