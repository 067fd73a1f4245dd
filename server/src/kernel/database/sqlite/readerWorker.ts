import { parentPort, workerData } from 'node:worker_threads'
import Sqlite from 'better-sqlite3'
import { SqliteConnection } from './sqlite'

export interface Question {
  readonly id: number
  readonly sql: string
  readonly values: readonly unknown[]
  /** Under the names that the database has, or under those of the code. */
  readonly under: 'rows' | 'query'
}
export type Answer = { readonly id: number; readonly rows: unknown[]; readonly hasBytes: boolean } | { readonly id: number; readonly problem: string }

/** Reads for those who read long, beside the thread that everybody waits for. */
const raw = new Sqlite(workerData as string, { readonly: true, fileMustExist: true })
raw.pragma('cache_size = -8000')
const connection = new SqliteConnection(raw)

parentPort?.on('message', ({ id, sql, values, under }: Question) => {
  connection[under](sql, values).then(
    (rows) => {
      const hasBytes = rows.some((row) => Object.values(row as object).some((cell) => cell instanceof Uint8Array))
      parentPort?.postMessage({ id, rows, hasBytes } satisfies Answer)
    },
    (error: unknown) => parentPort?.postMessage({ id, problem: error instanceof Error ? error.message : String(error) } satisfies Answer),
  )
})
