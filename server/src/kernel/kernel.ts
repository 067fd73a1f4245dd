import type { Role } from '@nemawashi/contract'
import type { Logger } from 'pino'
import type { Head, HeadFile, SignedHead } from './audit/chainHead'
import type { Area } from './area'
import type { Config } from './base/config'
import type { Database, Schema } from './work/database'
import type { OpenPages } from './http/openPages'
import type { Progress } from './threads/progress'
import type { Tell, ThreadPool } from './threads/threadPool'
import type { Anchors, Verification } from './verify/verifyPlant'
import type { Identity } from './work/identity'
import type { Clock, UnitOfWork } from './work/unitOfWork'

/** What every area of the server is given. Nothing in here is global. */
export interface Kernel {
  readonly config: Config
  readonly clock: Clock
  readonly database: Database
  readonly work: UnitOfWork
  readonly identity: Identity
  readonly areas: readonly Area<never>[]
  readonly schema: Schema
  readonly progress: Progress
  /** Pages that are told at once what concerns them. */
  readonly openPages: OpenPages
  /** Threads for what takes a processor for longer than others may wait. */
  readonly threads: ThreadPool
  readonly log: Logger
  readonly version: string
  readonly startedAt: string
  /** Milliseconds of a clock that nobody sets: for waits. */
  readonly monotonicMs: () => number
  /** What the first administrator has to enter; the server prints it at its start, while there are no people. */
  readonly setupCode: string
  readonly chain: {
    readonly key: Buffer
    readonly file: HeadFile
    /** How far the chain goes now, sealed with the plant's key. */
    head(): Promise<SignedHead>
    /** Proves the plant in a thread, against what is said of it outside. */
    verify(heads: Anchors['heads'], tell?: Tell): Promise<Verification>
    /** What was found at the start that does not fit what was said outside the database; null when all does. */
    readonly trouble: { readonly said: Head | 'damaged'; readonly found: Head } | null
  }
  /** People that the sign-in page offers, in the demo only. */
  readonly demoPeople: readonly { name: string; signInName: string; roles: Role[]; password: string }[]
  /** Whether replies are checked against the contract; on in tests, where it costs nobody time. */
  readonly isCheckingReplies: boolean
}
