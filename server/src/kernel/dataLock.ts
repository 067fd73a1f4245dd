import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}

/** The process that serves a data folder, or null. A lock left by a killed process counts as none. */
export function lockHolder(folder: string): number | null {
  const file = join(folder, 'server.pid')
  if (!existsSync(file)) return null
  const pid = Number(readFileSync(file, 'utf8'))
  return pid !== process.pid && isAlive(pid) ? pid : null
}

/** Takes the data folder for this process; gives the function that lets it go. Throws when another one has it. */
export function takeLock(folder: string): () => void {
  const holder = lockHolder(folder)
  if (holder !== null)
    throw new Error(`The folder ${folder} is in use by a running server (process ${holder}). Stop it first, or choose another NEMAWASHI_DATA.`)
  mkdirSync(folder, { recursive: true })
  const file = join(folder, 'server.pid')
  writeFileSync(file, String(process.pid))
  return () => rmSync(file, { force: true })
}
