import { createRequire } from 'node:module'
import { dirname } from 'node:path'
import { openApiDocument } from '@nemawashi/contract/openapi'
import type { Person } from '@nemawashi/contract'
import express, { type Request, type Router } from 'express'
import { ServerError } from '../kernel/base/serverError'

const page = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Nemawashi API</title>
<link rel="stylesheet" href="/api/v1/docs/swagger-ui.css"></head><body><div id="api"></div>
<script src="/api/v1/docs/swagger-ui-bundle.js"></script><script src="/api/v1/docs/start.js"></script></body></html>`
const start = `SwaggerUIBundle({ url: '/api/v1/openapi.json', dom_id: '#api', deepLinking: true, validatorUrl: null })`

/** The OpenAPI document, for whoever is signed in, and a page to browse it, all from this server: it works without network. */
export function apiDocs(version: string, personOf: (request: Request) => Promise<Person | null>): Router {
  const router = express.Router()
  // Made when it is first asked for: it takes a tenth of the start of a server.
  let document: ReturnType<typeof openApiDocument> | null = null
  const assets = dirname(createRequire(import.meta.url).resolve('swagger-ui-dist/package.json'))
  router.get('/api/v1/openapi.json', async (request, response) => {
    if ((await personOf(request)) === null) throw new ServerError('signed_out', 'The addresses are told to whoever is signed in.')
    response.json((document ??= openApiDocument(version)))
  })
  router.get('/api/v1/docs', (_request, response) => void response.type('html').send(page))
  router.get('/api/v1/docs/start.js', (_request, response) => void response.type('js').send(start))
  router.use('/api/v1/docs', express.static(assets, { index: false }))
  return router
}
