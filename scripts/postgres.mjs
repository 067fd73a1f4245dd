// Debian's PostgreSQL in a folder of its own, for tests: started, used, stopped, gone.
import { spawn, spawnSync } from 'node:child_process'
import { chownSync, closeSync, existsSync, mkdtempSync, openSync, readFileSync, readdirSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { mayInstall, installDebian } from './setup.mjs'

/** The folder of the server's programs; null where there is none. */
function programs() {
  const versions = existsSync('/usr/lib/postgresql') ? readdirSync('/usr/lib/postgresql').sort((a, b) => Number(b) - Number(a)) : []
  return versions.map((version) => `/usr/lib/postgresql/${version}/bin`).find((folder) => existsSync(join(folder, 'initdb'))) ?? null
}

/** Whether there is a PostgreSQL server here, after installing it where that may be done. */
export function hasPostgres() {
  if (programs() === null && mayInstall()) installDebian('postgresql')
  return programs() !== null
}

const freePort = () =>
  new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address()
      server.close(() => resolve(port))
    })
  })

/** The server refuses to run as root: there it runs as the account that Debian's package has made for it. */
function account() {
  if (process.getuid?.() !== 0) return {}
  const id = (flag) => Number(spawnSync('id', [flag, 'postgres'], { encoding: 'utf8' }).stdout)
  return { uid: id('-u'), gid: id('-g') }
}

/** Starts a server of its own; gives its address and what stops it and takes its folder away. */
export async function startPostgres() {
  const bin = programs()
  if (bin === null) throw new Error("There is no PostgreSQL server here. Install Debian's package: apt-get install postgresql")
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-postgres-'))
  const as = account()
  if (as.uid !== undefined) chownSync(folder, as.uid, as.gid)
  const data = join(folder, 'data')
  const initialised = spawnSync(join(bin, 'initdb'), ['-D', data, '-U', 'nemawashi', '-A', 'trust', '-E', 'UTF8', '--locale=C', '--no-sync'], {
    ...as,
    cwd: folder,
    encoding: 'utf8',
  })
  if (initialised.status !== 0) throw new Error(`initdb failed: ${initialised.stderr}`)
  const port = await freePort()
  const settings = { port, listen_addresses: '127.0.0.1', unix_socket_directories: '', fsync: 'off', full_page_writes: 'off', max_connections: 200 }
  // To a file: what it says into a pipe that nobody reads (whoever started it may wait for the tests) would stop it once the pipe is full.
  const log = join(folder, 'log')
  const sink = openSync(log, 'a')
  const server = spawn(join(bin, 'postgres'), ['-D', data, ...Object.entries(settings).flatMap(([name, value]) => ['-c', `${name}=${value}`])], {
    ...as,
    cwd: folder,
    stdio: ['ignore', 'ignore', sink],
  })
  closeSync(sink)
  const said = () => readFileSync(log, 'utf8')
  while (!said().includes('ready to accept connections')) {
    if (server.exitCode !== null || server.signalCode !== null) throw new Error(`The PostgreSQL server ended: ${said()}`)
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  return {
    address: `postgres://nemawashi@127.0.0.1:${port}/postgres`,
    stop: () =>
      new Promise((resolve) => {
        server.on('exit', () => {
          rmSync(folder, { recursive: true, force: true })
          resolve()
        })
        // Ends at once, without waiting for connections that somebody left open.
        server.kill('SIGINT')
      }),
  }
}
