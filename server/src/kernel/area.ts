import type { EntitySchema } from 'typeorm'
import type { Config } from './base/config'
import type { DomainEvents } from './work/domainEvents'
import type { Kernel } from './kernel'
import type { Connection } from './database/connection'
import type { Routes } from './routes'
import type { UnitOfWork } from './work/unitOfWork'

/** Where the chain's subjects stand: the table, and the column with what people call them. */
export type Subjects = Readonly<Record<string, { readonly table: string; readonly column: string }>>

/** A kind of thing that the search box finds; the statement takes the pattern twice and gives id, title, detail. */
export interface SearchProvider {
  readonly kind: string
  readonly sql: string
}

/** Work that the server does by itself: at its start, and then every so often. */
export interface Job {
  readonly words: string
  readonly everyMs: number
  /** Where several servers are at one plant: each does it, and not one of them for all. */
  readonly isOfEach?: boolean
  readonly run: (work: UnitOfWork, now: Date, kernel: Pick<Kernel, 'config' | 'database' | 'identity'>) => Promise<unknown>
}

/** What the areas know must be so in the database. */
export function verificationsOf(areas: readonly Pick<Area<never>, 'verify'>[]): ((connection: Connection) => Promise<string[]>)[] {
  return areas.flatMap(({ verify }) => (verify ? [verify] : []))
}

export interface Door {
  readonly words: string
  close(): void
}

/** What a folder of the server brings along. The application is the list of them; nothing else knows all. */
export interface Area<K extends Kernel = Kernel> {
  readonly name: string
  readonly entities?: readonly EntitySchema[]
  readonly routes?: (routes: Routes, kernel: K) => void
  readonly subjects?: Subjects
  readonly searchProviders?: readonly SearchProvider[]
  /** What it does when something happened elsewhere, in the same transaction. */
  readonly subscribe?: (events: DomainEvents, config: Config) => void
  readonly jobs?: readonly Job[]
  /** Another way in than HTTP, where the configuration asks for one: gives what is said of it at the start, and what closes it. */
  readonly openDoor?: (kernel: K) => Promise<Door | null>
  /** What it knows must be so in the database; gives what is not, in words. */
  readonly verify?: (connection: Connection) => Promise<string[]>
}
