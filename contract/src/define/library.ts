import { z } from 'zod'
import { FileCharacteristic } from './characteristicLinks'
import { tableColumns } from './characteristicTable'
import { FileDocument } from './documentFile'
import { endpoint, Id, Nothing, Version, type Access } from '../wire/endpoint'

const engineer: Access = ['qualityEngineer', 'administrator']
/** Rows of one import; a larger table is refused before anything of it is read. */
export const maxRows = 20_000

/** A table as it was read from a file: text cells, and what is wrong with cells as such. */
export const ReadTable = z.strictObject({
  columns: z.array(z.string()),
  rows: z.array(z.array(z.string())),
  problems: z.array(z.strictObject({ row: z.int(), column: z.int(), message: z.string(), isError: z.boolean() })),
  /** Keys of the documents that the file carries. */
  carried: z.array(z.string()),
})
export type ReadTable = z.infer<typeof ReadTable>

const Row = z.partialRecord(z.enum(tableColumns), z.string().max(4000))
const Rows = z.array(Row).min(1).max(maxRows)

/** What an import would do, and every cell that stands in its way. Rows count from 1, without the head. */
export const ImportCheck = z.strictObject({
  created: z.int(),
  revised: z.int(),
  unchanged: z.int(),
  problems: z.array(z.strictObject({ row: z.int(), column: z.enum(tableColumns), message: z.string() })),
  /** Problems beyond those listed. */
  more: z.int(),
  /** What a row points at and the plant does not have: it stays out, or as it is, and the import goes on without it. */
  missing: z.array(z.strictObject({ row: z.int(), column: z.enum(tableColumns), message: z.string() })),
})
export type ImportCheck = z.infer<typeof ImportCheck>

/** The library as JSON: open, complete, and with a published schema. */
export const LibraryFile = z.strictObject({
  format: z.literal('nemawashi-characteristics'),
  version: z.literal(1),
  characteristics: z.array(FileCharacteristic).max(maxRows),
  /** Content of documents that characteristics show; in a file that was taken out with them. */
  documents: z.array(FileDocument).max(2000).default([]),
})
export type LibraryFile = z.infer<typeof LibraryFile>

export const library = {
  exportLibrary: endpoint('GET', '/api/v1/library/export', {
    access: 'signedIn',
    summary: 'All characteristics, latest revision each, as CSV, XLSX or JSON',
    query: z.strictObject({
      format: z.enum(['csv', 'xlsx', 'json']),
      q: z.string().max(200).optional(),
      /** JSON only: with the content of the documents. */
      with: z.literal('documents').optional(),
    }),
    reply: z.unknown(),
  }),
  getLibrarySchema: endpoint('GET', '/api/v1/library/schema', { access: 'anyone', summary: 'JSON Schema of the JSON export', reply: z.unknown() }),
  readTable: endpoint('POST', '/api/v1/library/read', {
    access: engineer,
    summary: 'Read a CSV or XLSX file into text cells; nothing is written',
    body: z.strictObject({ name: z.string().max(200), content: z.base64().max(14_000_000) }),
    reply: ReadTable,
  }),
  checkImport: endpoint('POST', '/api/v1/library/check', {
    access: engineer,
    summary: 'What an import would do; nothing is written',
    /** Keys of the documents that the file carries. */
    body: z.strictObject({ rows: Rows, carried: z.array(z.string().max(180)).max(2000).default([]) }),
    reply: ImportCheck,
  }),
  getProgress: endpoint('GET', '/api/v1/progress/:id', {
    access: 'signedIn',
    summary: 'How far a request has come that was sent with this Idempotency-Key; null when it is not under way',
    params: z.strictObject({ id: Id }),
    reply: z.strictObject({ progress: z.strictObject({ done: z.int(), total: z.int() }).nullable() }),
  }),
  importCharacteristics: endpoint('POST', '/api/v1/library/import', {
    access: engineer,
    summary: 'Import characteristics as drafts, all or none',
    body: z.strictObject({ rows: Rows, documents: z.array(FileDocument).max(2000).default([]) }),
    reply: z.strictObject({ importId: Id, created: z.int(), revised: z.int(), unchanged: z.int() }),
  }),
  undoImport: endpoint('POST', '/api/v1/library/imports/:id/undo', {
    access: engineer,
    summary: 'Take an import back, as long as nothing of it was changed or used since',
    params: z.strictObject({ id: Id }),
    body: Nothing,
    reply: z.strictObject({ removed: z.int() }),
  }),
  releaseMany: endpoint('POST', '/api/v1/library/release', {
    access: engineer,
    summary: 'Release the drafts of several characteristics, all or none',
    body: z.strictObject({
      characteristics: z
        .array(z.strictObject({ id: Id, version: Version }))
        .min(1)
        .max(500),
    }),
    reply: z.strictObject({ released: z.int() }),
  }),
}
