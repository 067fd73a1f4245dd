import type { DataSource } from 'typeorm'
import type { UnitOfWork } from './unitOfWork'

const keyDays = 14

/** Drops what has outlived its use: ended sessions, and idempotency keys of requests that nobody repeats any more. */
export async function tidy(work: UnitOfWork, now: Date): Promise<void> {
  const old = new Date(now.getTime() - keyDays * 86_400_000).toISOString()
  await work.run({ personId: null, key: null, content: '' }, async ({ manager, nothingChanged }) => {
    await manager.query('DELETE FROM session WHERE expiresAt < ?', [now.toISOString()])
    await manager.query('DELETE FROM request_key WHERE at < ?', [old])
    nothingChanged()
  })
}

/** Copies the database to a file while it is in use, as of one moment. */
export async function backUp(writer: DataSource, file: string): Promise<void> {
  const { databaseConnection } = writer.driver as unknown as { databaseConnection: { backup(file: string): Promise<unknown> } }
  await databaseConnection.backup(file)
}
