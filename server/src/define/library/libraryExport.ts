import { fileForm, rowOf, tableColumns, type CharacteristicFields, type CharacteristicLinks } from '@nemawashi/contract'
import Papa from 'papaparse'
import { documentNames, documentsWithContent } from '../../documents/repository'
import { csvOptions } from '../../kernel/files/csv'
import type { Reader } from '../../kernel/work/database'
import { currentPages } from './repository'
import { fieldsOf } from './libraryImport'
import { linkNames, linksOf } from './libraryLinks'

/** What leaves the library for one characteristic. */
interface Taken {
  readonly code: string
  readonly fields: CharacteristicFields
  readonly links: CharacteristicLinks
}

/** Read and written at a time. */
const pageRows = 100

/** The latest revisions whose code or name holds the words, by code, page by page. */
export async function* libraryPages(reader: Reader, words: string): AsyncGenerator<Taken[]> {
  const wanted = words.toLowerCase()
  const names = await linkNames(reader)
  for await (const page of currentPages(reader, pageRows))
    yield page
      .filter(({ code, revision }) => `${code} ${revision.name}`.toLowerCase().includes(wanted))
      .map(({ code, revision }) => {
        const fields = fieldsOf(revision)
        return { code, fields, links: linksOf(fields, names) }
      })
}

const rowsOf = (page: readonly Taken[]) => page.map(({ code, fields, links }) => rowOf(code, fields, links))

export async function* libraryCsv(pages: AsyncIterable<Taken[]>): AsyncGenerator<string> {
  yield `\uFEFF${Papa.unparse([tableColumns], csvOptions)}\r\n`
  for await (const page of pages)
    if (page.length > 0) yield `${Papa.unparse({ fields: [...tableColumns], data: rowsOf(page) }, { ...csvOptions, header: false })}\r\n`
}

/** One thing of a JSON list, set in as deep as it stands. */
const item = (value: unknown) => JSON.stringify(value, null, 2).replaceAll(/^/gm, '    ')

/** @param withDocuments also what the documents consist of that are shown */
export async function* libraryJson(reader: Reader, pages: AsyncIterable<Taken[]>, withDocuments: boolean): AsyncGenerator<string> {
  const shown = new Set<string>()
  let before = ''
  yield '{\n  "format": "nemawashi-characteristics",\n  "version": 1,\n  "characteristics": ['
  for await (const page of pages) {
    for (const { fields } of page) for (const id of fields.details.documentIds) shown.add(id)
    const forms = page.map(({ code, fields, links }) => fileForm(code, fields, links))
    if (forms.length === 0) continue
    yield `${before}\n${forms.map(item).join(',\n')}`
    before = ','
  }
  yield '\n  ],\n  "documents": ['
  before = ''
  const documents = withDocuments ? (await documentNames(reader)).filter(({ id }) => shown.has(id)) : []
  for (const { id } of documents.sort((a, b) => (a.name < b.name ? -1 : 1)))
    for (const { content, ...head } of await documentsWithContent(reader, [id])) {
      yield `${before}\n${item({ ...head, content: content.toString('base64') })}`
      before = ','
    }
  yield '\n  ]\n}\n'
}

/** The library as a sheet of texts: its columns, and its rows page by page. */
export const librarySheet = {
  name: 'characteristics',
  columns: tableColumns.map((key) => ({ key, width: key === 'name' || key === 'answers' ? 30 : 14 })),
}
export async function* librarySheetRows(pages: AsyncIterable<Taken[]>): AsyncGenerator<string[][]> {
  for await (const page of pages) yield rowsOf(page).map((row) => tableColumns.map((column) => row[column] ?? ''))
}
