import { pino } from 'pino'
import { v7 } from 'uuid'
import type { Config } from './config'
import { openDatabase } from './database'
import type { Kernel } from './kernel'
import { Sessions } from './sessions'
import { UnitOfWork, type Clock } from './unitOfWork'

export interface Choices {
  readonly clock?: Clock
  readonly newId?: () => string
  readonly demoPeople?: Kernel['demoPeople']
  readonly isCheckingReplies?: boolean
}

export const systemClock: Clock = { now: () => new Date() }

/** Opens the database of the configured folder and puts the parts together. `close` waits for the changes under way. */
export async function startKernel(config: Config, choices: Choices = {}): Promise<Kernel & { close(): Promise<void> }> {
  const clock = choices.clock ?? systemClock
  const database = await openDatabase(config.dataFolder)
  const work = new UnitOfWork(database.writer, clock, choices.newId ?? v7)
  return {
    config,
    clock,
    database,
    work,
    sessions: new Sessions(database.reader, clock, config.sessionHours),
    log: pino({ level: config.logLevel }),
    startedAt: clock.now().toISOString(),
    demoPeople: choices.demoPeople ?? [],
    isCheckingReplies: choices.isCheckingReplies ?? false,
    async close() {
      await work.settled()
      await database.close()
    },
  }
}
