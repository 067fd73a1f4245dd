// Installs what the project needs, once: packages, and for tests a browser. Uses nothing but Node itself.
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

export const root = join(import.meta.dirname, '..')
const stampFile = join(root, 'node_modules/.nemawashi-setup')
const lockFolder = join(root, '.setup-lock')
const staleLockMs = 15 * 60_000
/** The same browser twice: without windows and all that belongs to them it takes a quarter less time for the same pages. */
const browsers = { 'chromium-headless-shell': '/usr/bin/chromium-headless-shell', chromium: '/usr/bin/chromium' }
/** Where the browser of the tests is; null where none is installed. */
export function chromium() {
  return process.env.CHROMIUM ?? Object.values(browsers).find((path) => existsSync(path)) ?? null
}

/** Runs a command with its output on the screen; throws when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (error) throw error
  if (status !== 0) throw new Error(`${command} ${args.join(' ')} ended with ${status}`)
}

function stamp() {
  return createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .update(process.version)
    .digest('hex')
}

function isInstalled() {
  return existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp()
}

/** Two installs at once would break each other: the second waits for the first. */
function lock() {
  for (;;) {
    try {
      mkdirSync(lockFolder)
      return
    } catch {
      if (Date.now() - statSync(lockFolder).mtimeMs > staleLockMs) rmSync(lockFolder, { recursive: true, force: true })
      else Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 500)
    }
  }
}

/** @param isFetched is called once all packages are there, before the one that has to be compiled is: most of what uses them can begin */
export function installPackages(isFetched = () => undefined) {
  if (isInstalled()) return
  lock()
  try {
    if (isInstalled()) return
    console.log('Installing packages. better-sqlite3 is compiled here; together this takes three to five minutes, once.')
    // No package runs a script of its own but this one, which needs it.
    run('npm', [existsSync(join(root, 'node_modules')) ? 'install' : 'ci', '--no-audit', '--no-fund', '--ignore-scripts'])
    isFetched()
    // Compiled on all processors.
    run('npm', ['rebuild', 'better-sqlite3'], { env: { ...process.env, JOBS: process.env.JOBS ?? 'max' } })
    writeFileSync(stampFile, stamp())
  } finally {
    rmSync(lockFolder, { recursive: true, force: true })
  }
}

export const mayInstall = () => process.getuid?.() === 0 && spawnSync('apt-get', ['--version']).status === 0

/** Installs a package of Debian's. */
export function installDebian(name) {
  console.log(`Installing ${name} from the packages of Debian.`)
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  run('apt-get', ['update', '-qq'], { env: environment })
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', name], { env: environment, stdio: ['ignore', 'ignore', 'inherit'] })
}

export function installBrowser() {
  if (process.env.CHROMIUM || existsSync(browsers['chromium-headless-shell'])) return
  if (!mayInstall()) {
    if (chromium()) return
    throw new Error(
      `The end-to-end tests need Chromium at ${Object.values(browsers).join(' or ')} (or at the path in CHROMIUM). ` +
        "Install Debian's package: apt-get install chromium-headless-shell",
    )
  }
  try {
    installDebian('chromium-headless-shell')
  } catch {
    if (!chromium()) installDebian('chromium')
  }
}
