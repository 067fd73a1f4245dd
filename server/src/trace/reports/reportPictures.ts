import type { Inspection } from '@nemawashi/contract'
import { contentOf } from '../../documents/repository'
import type { Reader } from '../../kernel/work/database'
import type { Pictures } from './evidencePart'

/** So many pictures are on paper; the others are named there, and stand in the passport. */
const maxPictures = 24

/** The pictures that were taken of pieces, the first ones where there are many. */
export async function picturesOf(reader: Reader, { evidence }: Inspection): Promise<Pictures> {
  const ids = evidence.flatMap(({ document }) => (document?.mediaType.startsWith('image/') ? [document.id] : []))
  const pictures: Record<string, Uint8Array> = {}
  for (const id of [...new Set(ids)].slice(0, maxPictures)) {
    const content = await contentOf(reader, id)
    if (content) pictures[id] = content
  }
  return pictures
}
