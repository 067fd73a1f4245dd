import { type DocumentHead, define } from '@nemawashi/contract'
import { call } from './api'
import { fileContent } from './fileContent'

/** What a file is by its ending; browsers do not know all of them. */
const endings: Readonly<Record<string, DocumentHead['mediaType']>> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  pdf: 'application/pdf',
  glb: 'model/gltf-binary',
}

/** Keeps a chosen file at the server. @throws {Failure} */
export async function keepDocument(file: File): Promise<DocumentHead> {
  const mediaType = endings[file.name.split('.').at(-1)?.toLowerCase() ?? ''] ?? (file.type as DocumentHead['mediaType'])
  return call(define.addDocument, { body: { name: file.name, mediaType, content: await fileContent(file) } })
}
