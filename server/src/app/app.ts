import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { randomUUID } from 'node:crypto'
import compression from 'compression'
import staticGzip from 'express-static-gzip'
import express, { type Express, type NextFunction, type Request, type Response } from 'express'
import helmet from 'helmet'
import { pinoHttp } from 'pino-http'
import { apiDocs } from './apiDocs'
import type { App } from '../people/app'
import { areas } from './areas'
import { Routes } from '../kernel/routes'
import { errorReply, ServerError } from '../kernel/base/serverError'

/** What ends a stream before its end: the asker went away. */
const leftEarly = new Set(['ERR_STREAM_PREMATURE_CLOSE', 'ECONNRESET', 'EPIPE', 'ERR_STREAM_DESTROYED'])

/** Refusals that tell of somebody who tries: they stand in the log, with who asked and from where. The others are everyday. */
const tellingRefusals = new Set(['origin_foreign', 'password_wrong', 'role_missing', 'setup_code_wrong', 'sign_in_failed', 'too_many_attempts'])

const contentSecurity = {
  useDefaults: true,
  directives: {
    'default-src': ["'self'"],
    'script-src': ["'self'"],
    'worker-src': ["'self'", 'blob:'],
    'img-src': ["'self'", 'data:', 'blob:'],
    // Vuetify writes its theme and positions into style elements.
    'style-src': ["'self'", "'unsafe-inline'"],
    'font-src': ["'self'"],
    'connect-src': ["'self'"],
    'frame-ancestors': ["'none'"],
    // Plants run this on plain HTTP inside the house; the browser must not rewrite the addresses.
    'upgrade-insecure-requests': null,
  },
}

/** What goes along with an answer of the API. */
const dataHeaders = [
  ['Content-Security-Policy', "default-src 'none'; frame-ancestors 'none'"],
  ['X-Content-Type-Options', 'nosniff'],
  ['Referrer-Policy', 'no-referrer'],
  ['Cross-Origin-Resource-Policy', 'same-origin'],
  ['X-Frame-Options', 'DENY'],
  ['Cache-Control', 'no-store'],
] as const

/** All routes of the API, registered on one list that tests compare with the contract. */
export function buildRoutes(house: App): Routes {
  const routes = new Routes(house)
  for (const area of areas) area.routes?.(routes, house)
  return routes
}

/** The application; it never listens. `pages` is the folder of the built web pages, when there are any. */
export function buildApp(kernel: App, pages: string | null): Express {
  const app = express()
  app.disable('x-powered-by')
  app.set('etag', false)
  if (kernel.config.trustedProxy !== null) app.set('trust proxy', kernel.config.trustedProxy)
  // One number a request, in the log and in the error that a person sees.
  app.use((request, response, next) => {
    ;(request as Request & { id: string }).id = randomUUID().slice(0, 8)
    response.setHeader('X-Request-Id', (request as Request & { id: string }).id)
    next()
  })
  if (kernel.log.isLevelEnabled('info'))
    app.use(pinoHttp({ logger: kernel.log, genReqId: (request) => request.id as string, customSuccessObject: () => ({}) }))
  // Before what pages and answers are given along: a file of code or style needs none of it.
  if (pages !== null) {
    const assets = staticGzip(join(pages, 'assets'), {
      enableBrotli: true,
      orderPreference: ['br'],
      serveStatic: { immutable: true, maxAge: '1y', setHeaders: (response) => void response.setHeader('X-Content-Type-Options', 'nosniff') },
    })
    app.use('/assets', assets, (request) => {
      throw new ServerError('asset_gone', `The file ${request.originalUrl.slice(0, 200)} belongs to another release of the pages.`)
    })
  }
  const secured = helmet({
    contentSecurityPolicy: contentSecurity,
    crossOriginEmbedderPolicy: false,
    // Only a server that speaks HTTPS may ask for nothing else.
    strictTransportSecurity: kernel.config.tls !== null,
    // Both need a secure context; on plain HTTP browsers only complain about them.
    crossOriginOpenerPolicy: kernel.config.tls !== null,
    originAgentCluster: kernel.config.tls !== null,
  })
  // Lists and pages are a fifth as long when they are packed; what answers a change is short.
  const packed = compression({ threshold: 1400 })
  app.use((request, response, next) => {
    if (!request.path.startsWith('/api/') || request.path.startsWith('/api/v1/docs'))
      return secured(request, response, (error?: unknown) => (error ? next(error) : packed(request, response, next)))
    // An answer is no page: it may load nothing, and stands in no cache.
    for (const [name, value] of dataHeaders) response.setHeader(name, value)
    if (kernel.config.tls !== null) response.setHeader('Strict-Transport-Security', 'max-age=31536000; includeSubDomains')
    if (request.method === 'GET') packed(request, response, next)
    else next()
  })
  app.use(buildRoutes(kernel).router)
  app.use(apiDocs(kernel.version, (request) => kernel.identity.personOf(request)))
  app.use('/api', (request) => {
    throw new ServerError('route_unknown', `There is no ${request.method} ${request.originalUrl.slice(0, 200)}.`)
  })
  if (pages !== null && existsSync(pages)) {
    app.use(express.static(pages, { index: false }))
    app.get('/{*path}', (_request, response) => void response.sendFile(join(pages, 'index.html'), { cacheControl: false }))
  }
  app.use((error: unknown, request: Request, response: Response, next: NextFunction) => {
    if (leftEarly.has((error as { code?: string }).code ?? '') || response.closed)
      return kernel.log.debug({ url: request.originalUrl }, 'the asker left')
    const { status, body, isForeseen } = errorReply(error, (request as Request & { id: string }).id)
    if (!isForeseen) kernel.log.error({ err: error, url: request.originalUrl, reference: body.error.facts }, 'unforeseen error')
    const { code } = body.error
    if (tellingRefusals.has(code))
      void kernel.identity
        .personOf(request)
        .catch(() => null)
        .then((person) =>
          kernel.log.warn({ code, method: request.method, path: request.path, address: request.ip, person: person?.signInName ?? null }, 'refused'),
        )
    if (response.headersSent) next(error)
    else response.status(status).type('json').json(body)
  })
  return app
}
