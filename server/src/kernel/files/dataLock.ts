import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'

/**
 * Takes the data folder for this process; gives the function that lets it go. The lock is one of the operating system on a file of
 * its own, taken through SQLite: it ends with the process, however that ends, and no number of a process has to be believed.
 * @throws when another process has it.
 */
export function takeLock(folder: string): () => void {
  mkdirSync(folder, { recursive: true })
  const lock = new Sqlite(join(folder, 'server.lock'), { timeout: 0 })
  const pidFile = join(folder, 'server.pid')
  try {
    lock.pragma('journal_mode = MEMORY')
    lock.exec('BEGIN EXCLUSIVE')
  } catch {
    lock.close()
    const pid = existsSync(pidFile) ? readFileSync(pidFile, 'utf8').trim() : ''
    throw new Error(
      `The folder ${folder} is in use by a running server${pid === '' ? '' : ` (process ${pid})`}. Stop it first, or choose another NEMAWASHI_DATA.`,
    )
  }
  writeFileSync(pidFile, String(process.pid))
  return () => {
    if (!lock.open) return
    rmSync(pidFile, { force: true })
    lock.exec('ROLLBACK')
    lock.close()
  }
}
