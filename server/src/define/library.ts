import { endpoints, LibraryFile, rowOf, tableColumns } from '@nemawashi/contract'
import ExcelJS from 'exceljs'
import Papa from 'papaparse'
import { z } from 'zod'
import { csvOptions } from '../kernel/csv'
import type { Routes } from '../kernel/routes'
import { counts, currentByCode, fieldsOf, importRows, planImport, undoImport } from './libraryImport'
import { readTable } from './readTable'
import { releaseCharacteristic } from './releaseCharacteristic'

const { define } = endpoints
const listedProblems = 500

export function libraryRoutes(routes: Routes): void {
  routes.stream(define.exportLibrary, async (reader, { query, response }) => {
    const wanted = (query.q ?? '').toLowerCase()
    const all = [...(await currentByCode(reader)).values()].filter(({ code, revision }) => `${code} ${revision.name}`.toLowerCase().includes(wanted))
    const rows = all.map(({ code, revision }) => rowOf(code, fieldsOf(revision)))
    response.attachment(`characteristics.${query.format}`)
    if (query.format === 'json') {
      const file: LibraryFile = {
        format: 'nemawashi-characteristics',
        version: 1,
        characteristics: all.map(({ code, revision }) => ({ code, ...fieldsOf(revision) })),
      }
      response.type('application/json').send(`${JSON.stringify(file, null, 2)}\n`)
    } else if (query.format === 'csv') {
      response.type('text/csv').send(`\uFEFF${Papa.unparse({ fields: [...tableColumns], data: rows }, csvOptions)}\r\n`)
    } else {
      const workbook = new ExcelJS.Workbook()
      const sheet = workbook.addWorksheet('characteristics', { views: [{ state: 'frozen', ySplit: 1 }] })
      sheet.columns = tableColumns.map((key) => ({ header: key, key, width: key === 'name' || key === 'answers' ? 30 : 14, style: { numFmt: '@' } }))
      sheet.addRows(rows)
      response.type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet').send(Buffer.from(await workbook.xlsx.writeBuffer()))
    }
  })
  routes.read(define.getLibrarySchema, async () => z.toJSONSchema(LibraryFile, { io: 'input' }))
  routes.read(define.readTable, async (_reader, { body }) => readTable(body.name, Buffer.from(body.content, 'base64')))
  routes.read(define.checkImport, async (reader, { body }) => {
    const { planned, problems } = await planImport(reader, body.rows)
    return { ...counts(planned), problems: problems.slice(0, listedProblems), more: Math.max(0, problems.length - listedProblems) }
  })
  routes.change(define.importCharacteristics, (work, { body }) => importRows(work, body.rows))
  routes.change(define.undoImport, (work, { params }) => undoImport(work, params.id))
  routes.change(define.releaseMany, async (work, { body }) => {
    for (const { id, version } of body.characteristics) await releaseCharacteristic(work, id, version)
    return { released: body.characteristics.length }
  })
}
