import { existsSync, readFileSync } from 'node:fs'
import { createServer } from 'node:http'
import { createServer as createSecureServer } from 'node:https'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { buildApp } from './app/app'
import { areas } from './app/areas'
import { readConfig } from './kernel/base/config'
import { takeLock } from './kernel/files/dataLock'
import { runJobs } from './kernel/jobs'
import type { Kernel } from './kernel/kernel'
import { startApp } from './app/start'
import { personRows } from './people/rows'

// What it writes is for whoever runs it, and for nobody else on the machine.
process.umask(0o077)

/** A start that is refused says why in a sentence; a stack helps nobody there. */
function refuse(error: unknown): never {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`)
  process.exit(1)
}

async function start(): Promise<void> {
  const config = readConfig(process.env)
  const release = takeLock(config.dataFolder)
  const demoFile = join(config.dataFolder, 'demo-people.json')
  const demoPeople = existsSync(demoFile) ? (JSON.parse(readFileSync(demoFile, 'utf8')) as Kernel['demoPeople']) : []
  const kernel = await startApp(config, { demoPeople, isCheckingReplies: process.env['NEMAWASHI_CHECK_REPLIES'] === '1' })
  const endJobs = runJobs(kernel)
  const doors = (await Promise.all(areas.map(({ openDoor }) => openDoor?.(kernel) ?? null)).catch(refuse)).filter((door) => door !== null)
  for (const { words } of doors) process.stdout.write(`${words}\n`)

  const app = buildApp(kernel, join(import.meta.dirname, '../../web/dist'))
  const server = config.tls ? createSecureServer({ cert: readFileSync(config.tls.cert), key: readFileSync(config.tls.key) }, app) : createServer(app)
  // Longer than senders and proxies let a connection rest: one that the server ends while it is being used again is an answer that never comes.
  server.keepAliveTimeout = 75_000
  server.on('error', (error: NodeJS.ErrnoException) => {
    release()
    const why = {
      EADDRINUSE: 'another program listens there',
      EADDRNOTAVAIL: 'this machine has no such address',
      ENOTFOUND: 'the name is unknown',
      EACCES: 'that is not allowed',
    }
    refuse(
      new Error(
        `The server cannot listen on ${config.host}:${config.port}: ${why[error.code as keyof typeof why] ?? error.message}. Choose another PORT or NEMAWASHI_HOST.`,
      ),
    )
  })
  if (!(await personRows.exists(kernel.database.reader, {})))
    process.stdout.write(`Nobody is here yet. The first administrator enters this code on the page: ${kernel.setupCode}\n`)
  server.listen(config.port, config.host, () => {
    const { port } = server.address() as AddressInfo
    const name = config.host === '0.0.0.0' || config.host === '::' ? 'localhost' : config.host
    process.stdout.write(`Nemawashi is ready at ${config.tls ? 'https' : 'http'}://${name}:${port}\n`)
  })

  let isStopping = false
  /** Answers what was asked, writes what was begun, then closes the database and goes. */
  function stop(): void {
    if (isStopping) return
    isStopping = true
    endJobs()
    for (const door of doors) door.close()
    kernel.openPages.close()
    server.close(() => {
      void kernel.close().finally(() => {
        release()
        process.exit(0)
      })
    })
    server.closeIdleConnections()
    setTimeout(() => server.closeAllConnections(), 5000).unref()
  }
  process.on('SIGTERM', stop)
  process.on('SIGINT', stop)
}

await start().catch(refuse)
