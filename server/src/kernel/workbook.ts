import type { Response } from 'express'
import type { Row } from 'write-excel-file/node'
import type { Kernel } from './kernel'
import type { HeavyTask } from './threads/threadPool'

/** A workbook of one sheet whose cells are texts. */
export interface Sheet {
  readonly name: string
  /** Heads of the columns, and how many characters wide each is. */
  readonly columns: readonly { readonly key: string; readonly width: number }[]
  /** Rows, so many at a time, as JSON lists of texts: bytes go from one thread to another without being looked at. */
  readonly pages: readonly Uint8Array[]
}

/** Writes a workbook, by a thread: neither its rows nor the library that knows the format keep anybody waiting. */
export const workbook: HeavyTask<Sheet, Uint8Array> = {
  name: 'workbook',
  run: async ({ name, columns, pages }, report) => {
    const { default: writeSheet } = await import('write-excel-file/node')
    const rows: Row[] = [columns.map(({ key }) => ({ value: key, type: String }))]
    for (const [i, page] of pages.entries()) {
      for (const row of JSON.parse(Buffer.from(page).toString()) as string[][]) rows.push(row.map((value) => ({ value, type: String, format: '@' })))
      report(i + 1, pages.length)
    }
    const sheet = { sheet: name, columns: columns.map(({ width }) => ({ width })), stickyRowsCount: 1 }
    return new Uint8Array(await writeSheet(rows, sheet).toBuffer())
  },
}

/** Answers with a workbook, once all of it is written: what fails before has sent nothing. @param pages rows in the order of the columns, so many at a time */
export async function sendWorkbook(
  kernel: Pick<Kernel, 'threads'>,
  response: Response,
  sheet: Omit<Sheet, 'pages'>,
  pages: AsyncIterable<readonly (readonly string[])[]> | Iterable<readonly (readonly string[])[]>,
): Promise<void> {
  const read: Uint8Array[] = []
  for await (const page of pages) {
    if (response.closed) return
    if (page.length > 0) read.push(Buffer.from(JSON.stringify(page)))
  }
  const bytes = await kernel.threads.run(workbook, { ...sheet, pages: read })
  response.type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet').end(bytes)
}
