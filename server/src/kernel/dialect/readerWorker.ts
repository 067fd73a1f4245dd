import { parentPort, workerData } from 'node:worker_threads'
import Sqlite from 'better-sqlite3'

export interface Question {
  readonly id: number
  readonly sql: string
  readonly values: readonly unknown[]
}
export type Answer = { readonly id: number; readonly rows: unknown[] } | { readonly id: number; readonly problem: string }

/** Reads for those who read long, beside the thread that everybody waits for. */
const raw = new Sqlite(workerData as string, { readonly: true, fileMustExist: true })
const known = new Map<string, Sqlite.Statement<unknown[]>>()

parentPort?.on('message', ({ id, sql, values }: Question) => {
  try {
    const statement = known.get(sql) ?? raw.prepare<unknown[]>(sql)
    if (known.size > 50) known.clear()
    known.set(sql, statement)
    parentPort?.postMessage({ id, rows: statement.all(...values) } satisfies Answer)
  } catch (error) {
    parentPort?.postMessage({ id, problem: error instanceof Error ? error.message : String(error) } satisfies Answer)
  }
})
