import { ServerError } from '../kernel/base/serverError'
import type { DocumentHead, FileDocument } from '@nemawashi/contract'
import type { Reader } from '../kernel/work/database'

export async function headOf(reader: Reader, id: string): Promise<DocumentHead> {
  const [head] = (await reader.query('SELECT id, name, media_type, size, hash, at FROM document WHERE id = ?', [id])) as DocumentHead[]
  if (!head) throw new ServerError('not_found', `There is no document with the id ${id}.`)
  return head
}

/** What a document consists of. */
export async function contentOf(reader: Reader, id: string): Promise<Buffer | null> {
  const [row] = (await reader.query('SELECT content FROM document WHERE id = ?', [id])) as { content: Buffer }[]
  return row?.content ?? null
}

/** Bytes that a person has kept since an instant. */
export async function keptSince(store: Pick<Reader, 'query'>, personId: string, since: string): Promise<number> {
  const [sum] = (await store.query('SELECT COALESCE(SUM(size), 0) AS bytes FROM document WHERE person_id = ? AND at > ?', [personId, since])) as {
    bytes: number | string
  }[]
  return Number(sum?.bytes ?? 0)
}

/** Every document without its content. */
export async function documentNames(reader: Reader) {
  return (await reader.query('SELECT id, name, hash FROM document')) as { id: string; name: string; hash: string }[]
}

/** Documents with what they consist of, by name. */
export async function documentsWithContent(reader: Reader, ids: readonly string[]) {
  return (await reader.query(`SELECT name, media_type, content FROM document WHERE id IN (SELECT value FROM json_each(?)) ORDER BY name, id`, [
    JSON.stringify(ids),
  ])) as (Omit<FileDocument, 'content'> & { content: Buffer })[]
}

/** Whether a document is kept. */
export async function hasDocument(reader: Reader, id: string): Promise<boolean> {
  return ((await reader.query('SELECT 1 FROM document WHERE id = ?', [id])) as unknown[]).length > 0
}
