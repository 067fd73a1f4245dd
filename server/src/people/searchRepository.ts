import type { SearchHit } from '@nemawashi/contract'
import type { SearchProvider } from '../kernel/area'
import type { Reader } from '../kernel/work/database'
import { rowsOf } from '../kernel/database/rowsOf'

/** Looks the words up everywhere, a few hits of each kind. */
export async function searchAll(reader: Reader, sources: readonly SearchProvider[], words: string): Promise<SearchHit[]> {
  const pattern = `%${words.replaceAll(/[\\%_]/g, '\\$&')}%`
  const hits: SearchHit[] = []
  for (const { kind, sql } of sources) {
    const rows = await rowsOf<Omit<SearchHit, 'kind'>>(reader, { id: 'text', title: 'text', detail: 'text' }, sql, [pattern, pattern])
    hits.push(...rows.map((row) => ({ kind, ...row })))
  }
  return hits
}
