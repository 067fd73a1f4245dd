import { documentDigits, endpoints, LibraryFile } from '@nemawashi/contract'
import { z } from 'zod'
import { sendChunks } from '../../kernel/http/sendChunks'
import type { Routes } from '../../kernel/routes'
import type { Kernel } from '../../kernel/kernel'
import { sendWorkbook } from '../../kernel/workbook'
import { libraryCsv, libraryJson, libraryPages, librarySheet, librarySheetRows } from './libraryExport'
import { counts, importRows, planImport, undoImport } from './libraryImport'
import { readTable } from './readTable'
import { releaseCharacteristic } from './releaseCharacteristic'

const { define } = endpoints
const listedProblems = 500

export function libraryRoutes(routes: Routes, kernel: Kernel): void {
  const { progress } = kernel
  const keyOf = (request: { get(name: string): string | undefined }) => request.get('idempotency-key') ?? null
  routes.read(define.getProgress, async (_reader, { params }) => ({ progress: progress.of(params.id) }))
  routes.stream(define.exportLibrary, async (reader, { query, response }) => {
    const pages = libraryPages(reader, query.q ?? '')
    response.attachment(`characteristics.${query.format}`)
    if (query.format === 'json') await sendChunks(response.type('application/json'), libraryJson(reader, pages, query.with === 'documents'))
    else if (query.format === 'csv') await sendChunks(response.type('text/csv'), libraryCsv(pages))
    else await sendWorkbook(kernel, response, librarySheet, librarySheetRows(pages))
  })
  routes.read(define.getLibrarySchema, async () => z.toJSONSchema(LibraryFile, { io: 'input' }))
  routes.read(define.readTable, async (_reader, { body }) => readTable(body.name, Buffer.from(body.content, 'base64')))
  routes.read(define.checkImport, async (reader, { body, request }) => {
    const carried = new Map(body.carried.map((key) => [documentDigits(key), key]))
    const { planned, problems, missing } = await progress.follow(keyOf(request), (report) => planImport(reader, body.rows, carried, report))
    return {
      ...counts(planned),
      problems: problems.slice(0, listedProblems),
      more: Math.max(0, problems.length - listedProblems),
      missing: missing.slice(0, listedProblems),
    }
  })
  routes.change(define.importCharacteristics, (work, { body, request }) =>
    progress.follow(keyOf(request), (report) => importRows(work, body.rows, body.documents, report)),
  )
  routes.change(define.undoImport, (work, { params }) => undoImport(work, params.id))
  routes.change(define.releaseMany, async (work, { body }) => {
    for (const { id, version } of body.characteristics) await releaseCharacteristic(work, id, version)
    return { released: body.characteristics.length }
  })
}
