import { contentOf, headOf } from './repository'
import { endpoints } from '@nemawashi/contract'
import type { Routes } from '../kernel/routes'
import { keepDocument } from './keepDocument'

const { define } = endpoints

export function documentRoutes(routes: Routes): void {
  routes.change(define.addDocument, (work, { body }) => keepDocument(work, body))
  routes.read(define.getDocument, (reader, { params }) => headOf(reader, params.id))
  routes.stream(define.getDocumentContent, async (reader, { params, response }) => {
    const head = await headOf(reader, params.id)
    const content = await contentOf(reader, params.id)
    response.type(head.mediaType)
    response.setHeader('Content-Disposition', `inline; filename*=UTF-8\'\'${encodeURIComponent(head.name)}`)
    response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox")
    response.setHeader('X-Content-Type-Options', 'nosniff')
    response.end(content)
  })
}
