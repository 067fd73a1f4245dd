import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import type { WorkbookJob, WorkbookReply } from './workbookWorker'

const mostMs = 20_000
const memoryMb = 256

/** From the built server the worker is a file beside it; from the sources it is read by the loader that tests and scripts are read by. */
const isBuilt = !import.meta.url.endsWith('.ts')
const file = join(import.meta.dirname, isBuilt ? 'workbookWorker.js' : 'workbookWorker.ts')
const fromSources = `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(file)}) })`

/** Reads the first sheet of a workbook in a thread with a memory and a time of its own. */
export function readWorkbook(content: Buffer, mostRows: number): Promise<WorkbookReply> {
  const job: WorkbookJob = { content: new Uint8Array(content), mostRows }
  const worker = new Worker(isBuilt ? file : fromSources, {
    eval: !isBuilt,
    workerData: job,
    resourceLimits: { maxOldGenerationSizeMb: memoryMb },
  })
  return new Promise((resolve) => {
    const refuse = (refused: string) => {
      clearTimeout(timer)
      resolve({ refused })
      void worker.terminate()
    }
    const timer = setTimeout(() => refuse(`The workbook could not be read in ${mostMs / 1000} s. Save the sheet alone, as XLSX or CSV.`), mostMs)
    worker.once('message', (reply: WorkbookReply) => {
      clearTimeout(timer)
      resolve(reply)
      void worker.terminate()
    })
    worker.once('error', () => refuse('The workbook needs more memory than an import may have. Save the sheet alone, as XLSX or CSV.'))
  })
}
