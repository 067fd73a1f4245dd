import { existsSync, readFileSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { takeAllEffect } from './define/planSchedule'
import { buildApp } from './kernel/app'
import { readConfig } from './kernel/config'
import { takeLock } from './kernel/dataLock'
import { tidy } from './kernel/housekeeping'
import type { Kernel } from './kernel/kernel'
import { startKernel } from './kernel/start'

const config = readConfig(process.env)
const release = takeLock(config.dataFolder)
const demoFile = join(config.dataFolder, 'demo-people.json')
const demoPeople = existsSync(demoFile) ? (JSON.parse(readFileSync(demoFile, 'utf8')) as Kernel['demoPeople']) : []
const kernel = await startKernel(config, { demoPeople, isCheckingReplies: process.env['NEMAWASHI_CHECK_REPLIES'] === '1' })
await tidy(kernel.work, kernel.clock.now())
const tidying = setInterval(
  () => void tidy(kernel.work, kernel.clock.now()).catch((error: unknown) => kernel.log.error({ error }, 'tidying failed')),
  6 * 3_600_000,
)

await takeAllEffect(kernel.work)
const scheduling = setInterval(
  () => void takeAllEffect(kernel.work).catch((error: unknown) => kernel.log.error({ error }, 'taking effect failed')),
  5 * 60_000,
)

const server = buildApp(kernel, join(import.meta.dirname, '../../web/dist')).listen(config.port, config.host, () => {
  const { port } = server.address() as AddressInfo
  process.stdout.write(`Nemawashi is ready at http://${config.host === '0.0.0.0' ? 'localhost' : config.host}:${port}\n`)
})
server.on('error', (error) => {
  process.stderr.write(`The server cannot listen on ${config.host}:${config.port}: ${error.message}\nChoose another PORT.\n`)
  release()
  process.exit(1)
})

let isStopping = false
/** Answers what was asked, writes what was begun, then closes the database and goes. */
function stop(): void {
  if (isStopping) return
  isStopping = true
  clearInterval(tidying)
  clearInterval(scheduling)
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
