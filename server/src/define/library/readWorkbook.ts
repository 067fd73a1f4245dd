import { startThread } from '../../kernel/threads/thread'
import type { WorkbookJob, WorkbookReply } from './workbookWorker'

const maxMs = 20_000
const memoryMb = 256

/** Reads the first sheet of a workbook in a thread with a memory and a time of its own. */
export function readWorkbook(content: Buffer, maxRows: number): Promise<WorkbookReply> {
  const job: WorkbookJob = { content: new Uint8Array(content), maxRows }
  const worker = startThread(import.meta.url, 'workbookWorker', job, { maxOldGenerationSizeMb: memoryMb })
  return new Promise((resolve) => {
    const refuse = (refused: string) => {
      clearTimeout(timer)
      resolve({ refused })
      void worker.terminate()
    }
    const timer = setTimeout(() => refuse(`The workbook could not be read in ${maxMs / 1000} s. Save the sheet alone, as XLSX or CSV.`), maxMs)
    worker.once('message', (reply: WorkbookReply) => {
      clearTimeout(timer)
      resolve(reply)
      void worker.terminate()
    })
    worker.once('error', () => refuse('The workbook needs more memory than an import may have. Save the sheet alone, as XLSX or CSV.'))
  })
}
