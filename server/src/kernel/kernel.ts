import type { Logger } from 'pino'
import type { Config } from './config'
import type { Database } from './database'
import type { Sessions } from './sessions'
import type { Clock, UnitOfWork } from './unitOfWork'

/** What every area of the server is given. Nothing in here is global. */
export interface Kernel {
  readonly config: Config
  readonly clock: Clock
  readonly database: Database
  readonly work: UnitOfWork
  readonly sessions: Sessions
  readonly log: Logger
  readonly startedAt: string
  /** People that the sign-in page offers, in the demo only. */
  readonly demoPeople: readonly { name: string; signInName: string; roles: string[]; password: string }[]
  /** Whether replies are checked against the contract; on in tests, where it costs nobody time. */
  readonly isCheckingReplies: boolean
}
