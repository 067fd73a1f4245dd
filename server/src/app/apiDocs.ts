import { createRequire } from 'node:module'
import { dirname } from 'node:path'
import { openApiDocument } from '@nemawashi/contract/openapi'
import express, { type Router } from 'express'

const page = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Nemawashi API</title>
<link rel="stylesheet" href="/api/docs/swagger-ui.css"></head><body><div id="api"></div>
<script src="/api/docs/swagger-ui-bundle.js"></script><script src="/api/docs/start.js"></script></body></html>`
const start = `SwaggerUIBundle({ url: '/api/openapi.json', dom_id: '#api', deepLinking: true, validatorUrl: null })`

/** The OpenAPI document and a page to browse it, all from this server: it works without network. */
export function apiDocs(version: string): Router {
  const router = express.Router()
  const document = openApiDocument(version)
  const assets = dirname(createRequire(import.meta.url).resolve('swagger-ui-dist/package.json'))
  router.get('/api/openapi.json', (_request, response) => void response.json(document))
  router.get('/api/docs', (_request, response) => void response.type('html').send(page))
  router.get('/api/docs/start.js', (_request, response) => void response.type('js').send(start))
  router.use('/api/docs', express.static(assets, { index: false }))
  return router
}
