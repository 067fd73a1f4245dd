import { currentByCode } from './characteristicRepository'
import { documentsWithContent } from '../documents/repository'
import { documentDigits, endpoints, fileForm, LibraryFile, rowOf, tableColumns, type FileDocument } from '@nemawashi/contract'
import Papa from 'papaparse'
import { z } from 'zod'
import { csvOptions } from '../kernel/csv'
import type { Routes } from '../kernel/routes'
import type { Progress } from '../kernel/progress'
import type { Reader } from '../kernel/database'
import { counts, fieldsOf, importRows, planImport, undoImport } from './libraryImport'
import { linkNames, linksOf } from './libraryLinks'
import { readTable } from './readTable'
import { releaseCharacteristic } from './releaseCharacteristic'

const { define } = endpoints
const listedProblems = 500

async function documentsOf(reader: Reader, ids: readonly string[]): Promise<FileDocument[]> {
  return (await documentsWithContent(reader, ids)).map(({ content, ...head }) => ({ ...head, content: content.toString('base64') }))
}

export function libraryRoutes(routes: Routes, progress: Progress): void {
  const keyOf = (request: { get(name: string): string | undefined }) => request.get('idempotency-key') ?? null
  routes.read(define.getProgress, async (_reader, { params }) => ({ progress: progress.of(params.id) }))
  routes.stream(define.exportLibrary, async (reader, { query, response }) => {
    const wanted = (query.q ?? '').toLowerCase()
    const all = [...(await currentByCode(reader)).values()].filter(({ code, revision }) => `${code} ${revision.name}`.toLowerCase().includes(wanted))
    const names = await linkNames(reader)
    const entries = all.map(({ code, revision }) => {
      const fields = fieldsOf(revision)
      return { code, fields, links: linksOf(fields, names) }
    })
    const rows = entries.map(({ code, fields, links }) => rowOf(code, fields, links))
    response.attachment(`characteristics.${query.format}`)
    if (query.format === 'json') {
      const file: LibraryFile = {
        format: 'nemawashi-characteristics',
        version: 1,
        characteristics: entries.map(({ code, fields, links }) => fileForm(code, fields, links)),
        documents:
          query.with === 'documents'
            ? await documentsOf(
                reader,
                entries.flatMap(({ fields }) => fields.details.documentIds),
              )
            : [],
      }
      response.type('application/json').send(`${JSON.stringify(file, null, 2)}\n`)
    } else if (query.format === 'csv') {
      response.type('text/csv').send(`\uFEFF${Papa.unparse({ fields: [...tableColumns], data: rows }, csvOptions)}\r\n`)
    } else {
      const { default: ExcelJS } = await import('exceljs')
      const workbook = new ExcelJS.Workbook()
      const sheet = workbook.addWorksheet('characteristics', { views: [{ state: 'frozen', ySplit: 1 }] })
      sheet.columns = tableColumns.map((key) => ({ header: key, key, width: key === 'name' || key === 'answers' ? 30 : 14, style: { numFmt: '@' } }))
      sheet.addRows(rows)
      response.type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet').send(Buffer.from(await workbook.xlsx.writeBuffer()))
    }
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
