import type { Kernel } from '../kernel/kernel'
import type { Attempts } from './attempts'
import type { Credentials } from './credentials'
import type { Sessions } from './sessions'

/** The kernel with the people of the plant: what an area that deals with persons is given. */
export interface App extends Kernel {
  readonly sessions: Sessions
  readonly credentials: Credentials
  readonly attempts: Attempts
}
