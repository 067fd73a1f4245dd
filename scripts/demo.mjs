// From a fresh clone to a running application with the demo plant: installs, builds, makes the demo data, starts.
import { randomBytes } from 'node:crypto'
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, readFileSync, renameSync, rmSync, statSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { build } from './build.mjs'
import { installPackages, root, run } from './setup.mjs'

const usage = `npm run demo                  the demo plant, made when it is not there yet
npm run demo -- --fresh       the demo plant, made anew with days relative to today
npm run demo -- --empty       no data: prints a setup code, and the first page asks for a first administrator
npm run demo -- --help        this text

PORT (4720), FEED_PORT, INSTRUMENT_PORT and INSTRUMENTS_PAGE_PORT (one, two and three more; the stand-ins for another system and for instruments) and NEMAWASHI_DATA (.data/demo, with --empty .data/empty) choose another port and folder; the README lists the rest.`
const odd = process.argv.slice(2).filter((word) => !['--fresh', '--empty'].includes(word))
if (odd.length > 0) {
  const isAsked = ['--help', '-h'].includes(odd[0])
  console.log(isAsked ? usage : `Received "${odd.join(' ')}", which is not known here.\n\n${usage}`)
  process.exit(isAsked ? 0 : 1)
}
const isEmpty = process.argv.includes('--empty')
const isFresh = process.argv.includes('--fresh')
const folder = resolve(process.env.NEMAWASHI_DATA ?? join(root, isEmpty ? '.data/empty' : '.data/demo'))
const startedAt = Date.now()
const step = (words) => console.log(`${String(Math.round((Date.now() - startedAt) / 1000)).padStart(4)} s  ${words}`)

step('Packages')
installPackages()
step('Build')
build()
if (!isEmpty) {
  const database = join(folder, 'nemawashi.sqlite')
  if (isFresh) rmSync(folder, { recursive: true, force: true })
  if (!existsSync(database)) {
    step('Demo data')
    // Made beside its place and moved there whole, so that a broken-off start leaves nothing half made.
    const beside = `${folder}.making`
    rmSync(beside, { recursive: true, force: true })
    run('node', [join(root, 'server/dist/seed.js')], { env: { ...process.env, NEMAWASHI_DATA: beside } })
    spawnSync('mkdir', ['-p', join(folder, '..')])
    rmSync(folder, { recursive: true, force: true })
    renameSync(beside, folder)
  } else if (new Date(statSync(join(folder, 'demo-people.json')).mtimeMs).toDateString() !== new Date().toDateString()) {
    step('The demo data is from an earlier day. npm run demo -- --fresh makes it anew.')
  }
}
step('Start')
// Another system stands beside the demo plant: it has a key, and shares a secret with it.
const keyFile = join(folder, 'order-feed.json')
const port = Number(process.env.PORT ?? 4720)
const feedPort = String(process.env.FEED_PORT ?? port + 1)
const secret = randomBytes(24).toString('base64url')
const feed = existsSync(keyFile) ? JSON.parse(readFileSync(keyFile, 'utf8')) : null
const told = feed ? { NEMAWASHI_WEBHOOK: `http://127.0.0.1:${feedPort}/told`, NEMAWASHI_WEBHOOK_SECRET: secret } : {}
// Instruments stand on its benches: each has the key of its gauge.
const instrumentsFile = join(folder, 'instruments.json')
const instruments = existsSync(instrumentsFile) ? readFileSync(instrumentsFile, 'utf8') : null
const instrumentPort = String(process.env.INSTRUMENT_PORT ?? port + 2)
const heard = instruments ? { NEMAWASHI_INSTRUMENT_PORT: instrumentPort } : {}
const server = spawn('node', [join(root, 'server/dist/main.js')], {
  stdio: 'inherit',
  env: { ...told, ...heard, ...process.env, NEMAWASHI_DATA: folder },
})
const standIns = [
  feed &&
    spawn('node', [join(root, 'standins/orderFeed.mjs')], {
      stdio: 'inherit',
      env: { ...process.env, PLANT: `http://127.0.0.1:${port}`, FEED_KEY: feed.key, FEED_SECRET: secret, FEED_PORT: feedPort },
    }),
  instruments &&
    spawn('node', [join(root, 'standins/instruments.mjs')], {
      stdio: 'inherit',
      env: {
        ...process.env,
        INSTRUMENTS: instruments,
        INSTRUMENT_PORT: instrumentPort,
        INSTRUMENTS_PAGE_PORT: String(process.env.INSTRUMENTS_PAGE_PORT ?? port + 3),
      },
    }),
].filter(Boolean)
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code) => {
  for (const standIn of standIns) standIn.kill()
  process.exit(code ?? 1)
})
