import { ServerError } from '../kernel/base/serverError'
import type { DocumentHead, FileDocument } from '@nemawashi/contract'
import type { Reader } from '../kernel/work/database'
import { rowsOf, type Columns } from '../kernel/database/rowsOf'

const documentHeadColumns: Columns<DocumentHead> = { id: 'text', name: 'text', mediaType: 'text', size: 'number', hash: 'text', at: 'text' }

export async function headOf(reader: Reader, id: string): Promise<DocumentHead> {
  const [head] = await rowsOf<DocumentHead>(reader, documentHeadColumns, 'SELECT id, name, media_type, size, hash, at FROM document WHERE id = ?', [
    id,
  ])
  if (!head) throw new ServerError('not_found', `There is no document with the id ${id}.`)
  return head
}

/** What a document consists of. */
export async function contentOf(reader: Reader, id: string): Promise<Buffer | null> {
  const [row] = await rowsOf<{ content: Buffer }>(reader, { content: 'any' }, 'SELECT content FROM document WHERE id = ?', [id])
  return row?.content ?? null
}

/** Bytes that a person has kept since an instant. */
export async function keptSince(store: Pick<Reader, 'query'>, personId: string, since: string): Promise<number> {
  const [sum] = await rowsOf(store, { bytes: 'any' }, 'SELECT COALESCE(SUM(size), 0) AS bytes FROM document WHERE person_id = ? AND at > ?', [
    personId,
    since,
  ])
  return Number(sum?.bytes ?? 0)
}

/** Every document without its content. */
export async function documentNames(reader: Reader) {
  return rowsOf(reader, { id: 'text', name: 'text', hash: 'text' }, 'SELECT id, name, hash FROM document')
}

/** Documents with what they consist of, by name. */
export async function documentsWithContent(reader: Reader, ids: readonly string[]) {
  return rowsOf<Omit<FileDocument, 'content'> & { content: Buffer }>(
    reader,
    { name: 'text', mediaType: 'text', content: 'any' },
    `SELECT name, media_type, content FROM document WHERE id IN (SELECT value FROM json_each(?)) ORDER BY name, id`,
    [JSON.stringify(ids)],
  )
}

/** Whether a document is kept. */
export async function hasDocument(reader: Reader, id: string): Promise<boolean> {
  return (await reader.query('SELECT 1 FROM document WHERE id = ?', [id])).length > 0
}
