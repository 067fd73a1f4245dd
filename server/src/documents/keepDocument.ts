import { createHash } from 'node:crypto'
import { largestDocument, maxKeptADay, type DocumentHead, type FileDocument } from '@nemawashi/contract'
import { ServerError } from '../kernel/base/serverError'
import type { Work } from '../kernel/work/unitOfWork'
import { checkModel } from './checkModel'
import { DocumentEntity } from './entities'
import { keptSince } from './repository'

const dayMs = 86_400_000

/** First bytes of each kind of file: what a file is called is not what it is. */
const signatures: Readonly<Record<DocumentHead['mediaType'], readonly number[]>> = {
  'image/png': [0x89, 0x50, 0x4e, 0x47],
  'image/jpeg': [0xff, 0xd8, 0xff],
  'application/pdf': [0x25, 0x50, 0x44, 0x46],
  'model/gltf-binary': [0x67, 0x6c, 0x54, 0x46],
}

/** Keeps a document as it came. @throws {ServerError} `body_too_large`, `kept_too_much`, `input_invalid` where it does not begin like what it says it is. */
export async function keepDocument(work: Work, { name, mediaType, content: encoded }: FileDocument): Promise<DocumentHead> {
  const content = Buffer.from(encoded, 'base64')
  if (content.length === 0 || content.length > largestDocument) {
    throw new ServerError('body_too_large', `${name} has ${content.length} bytes; a document has 1 to ${largestDocument}.`, {
      size: content.length,
      largest: largestDocument,
    })
  }
  if (!signatures[mediaType].every((byte, i) => content[i] === byte)) {
    throw new ServerError('input_invalid', `${name} does not begin like a file of the type ${mediaType}. Save it in one of the allowed formats.`, {
      field: 'content',
    })
  }
  if (mediaType === 'model/gltf-binary') checkModel(name, content)
  const kept = await keptSince(work.manager, work.personId ?? '', new Date(Date.parse(work.now) - dayMs).toISOString())
  if (kept + content.length > maxKeptADay) {
    throw new ServerError('kept_too_much', `You kept ${kept} bytes of documents within a day; with ${name} it would be more than ${maxKeptADay}.`, {
      kept,
      size: content.length,
      most: maxKeptADay,
    })
  }
  const head: DocumentHead = { id: work.newId(), name, mediaType, size: content.length, hash: hashOf(encoded), at: work.now }
  await work.manager.insert(DocumentEntity, { ...head, personId: work.personId ?? '', content })
  work.audit({ action: 'kept', subject: 'document', subjectId: head.id, after: head })
  return head
}

/** SHA-256 of content in base64, hexadecimal. */
export const hashOf = (encoded: string) => createHash('sha256').update(Buffer.from(encoded, 'base64')).digest('hex')
